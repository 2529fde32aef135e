import type { Rational } from '../timing/rational.ts';
import type { StepDefinition } from './step.ts';

/** Frames are stamped afresh at an exact rate, or keep their own times, counted from the first. */
export interface Stamp {
  readonly step: 'stamp';
  /** null keeps their own. */
  readonly rate: Rational | null;
}

/** The comparison pairs frames by their number. */
export const stamp: StepDefinition = { isInReference: false };
