import { averageRate, bitsPerSecond, bytes, type BitsPerSecond, type Bytes } from '../units.ts';

/** A cap split by what it pays for; the parts add up to the cap. */
export interface BudgetSplit {
  readonly video: Bytes;
  readonly audio: Bytes;
  readonly container: Bytes;
}

/** A size is aimed at from below: second passes scatter by 0.5 % to either side (measured). */
export const AIM_SHARE = 0.9945;

/** Both encoders take their rate in whole kilobits a second, and leave off what is over. */
export const RATE_STEP = 1000;

/**
 * Splits a cap: sound and container are paid first, the picture gets the rest.
 *
 * @param cap - Whole file, in bytes.
 * @param audio - As weighed from the encoded track where there is one, otherwise as expected from its rate.
 * @param container - From the container's table arithmetic.
 * @returns `video` is never negative; 0 when the cap is spent before the picture starts.
 */
export function splitBudget(cap: Bytes, audio: Bytes, container: Bytes): BudgetSplit {
  return { video: bytes(Math.max(0, cap - audio - container)), audio, container };
}

/**
 * The picture's average rate, as encoders take it, that fills its part of the cap from below.
 *
 * @param video - Bytes the picture may take.
 * @param durationSeconds - Of the picture.
 */
export function aimedVideoRate(video: Bytes, durationSeconds: number): BitsPerSecond {
  return bitsPerSecond(Math.floor(averageRate(video * AIM_SHARE, durationSeconds) / RATE_STEP) * RATE_STEP);
}
