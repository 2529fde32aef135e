import type { FieldOrder } from '../geometry/preparation.ts';
import type { StepDefinition } from './step.ts';

/** One whole frame is made of each two fields, so the frame count stays. */
export interface Deinterlace {
  readonly step: 'deinterlace';
  /** `where-marked` takes only frames that are marked as fields, in the order they say. */
  readonly fields: FieldOrder | 'where-marked';
}

export const deinterlace: StepDefinition = { isInReference: true };
