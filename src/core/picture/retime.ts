import type { Rational } from '../timing/rational.ts';
import type { StepDefinition } from './step.ts';

/** Frames at another rate: some are left out, or shown again; each shows what is on the screen when it begins. */
export interface Retime {
  readonly step: 'retime';
  readonly rate: Rational;
  /** How many come out, and which of the whole result's the first is. */
  readonly frames: number;
  readonly first: number;
  /** Where the first frame that is read lies in the whole: counted at the source's rate, or in seconds where it varies. */
  readonly read: { readonly rate: Rational; readonly frame: number } | { readonly seconds: number };
}

/** What was left out on purpose is no loss. */
export const retime: StepDefinition = { isInReference: true };
