import type { Flip, Turn as Degrees } from '../geometry/preparation.ts';
import type { StepDefinition } from './step.ts';

/** The picture is turned clockwise, and then mirrored. */
export interface Turn {
  readonly step: 'turn';
  readonly degrees: Degrees;
  readonly flip: Flip | null;
}

export const turn: StepDefinition = { isInReference: true };
