import { SURE } from '../excerpts/foresee.ts';

/** A forecast from trials, and what then came of it. */
export interface Outcome {
  /** Bytes of the picture. */
  readonly foreseen: number;
  /** The standard error of their logarithm, as it was told. */
  readonly error: number;
  readonly bytes: number;
}

/** As many results as the trials' own error counts for. */
const PRIOR = 8;

/**
 * An error bar, put right by how far forecasts of its kind lay off: where nine of ten results lay further out than was said, it
 * is widened, and narrowed where they lay nearer.
 *
 * @param told - To either side, in the logarithm, from the spread of the excerpts alone.
 * @param outcomes - Of the same codec.
 */
export function barOf(told: number, outcomes: readonly Outcome[]): number {
  const scores = outcomes
    .filter(({ error, bytes, foreseen }) => error > 0 && bytes > 0 && foreseen > 0)
    .map(({ error, bytes, foreseen }) => Math.abs(Math.log(bytes / foreseen)) / (error * SURE))
    .toSorted((a, b) => a - b);
  if (scores.length === 0) return told;
  const ninth = scores[Math.min(scores.length - 1, Math.ceil(scores.length * 0.9) - 1)]!;
  const belief = scores.length / (scores.length + PRIOR);
  return told * Math.exp(Math.log(Math.max(0.2, ninth)) * belief);
}
