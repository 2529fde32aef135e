import type { FieldOrder } from '../geometry/preparation.ts';
import type { StepDefinition } from './step.ts';

/** Whole frames are made of fields: one of each two, so that the frame count stays, or one of each. */
export interface Deinterlace {
  readonly step: 'deinterlace';
  /** `where-marked` takes only frames that are marked as fields, in the order they say. */
  readonly fields: FieldOrder | 'where-marked';
  /** Set where every field becomes a frame: twice as many come out, and motion keeps all of its steps. */
  readonly eachField?: true;
}

export const deinterlace: StepDefinition = { isInReference: true };
