import type { PassName } from '../../core/plan/encodePlan.ts';

/** What a runner is doing, from which fraction and time left follow. */
export type StageName = PassName | 'checking';

/** How long stages take relative to each other, measured at 720p with the balanced effort. */
const WEIGHT: Readonly<Record<StageName, number>> = {
  sound: 1,
  analysis: 15,
  encode: 16,
  correction: 16,
  // A group of pictures of a dozen, as a rule.
  retouch: 2,
  copy: 1,
  checking: 7,
};

/** What comes besides the passes where a size is filled: the whole once more, and a few of its groups (measured, demonstration). */
export const USUAL_OF_FILLS: readonly StageName[] = ['checking', 'correction', 'retouch', 'retouch'];

/** A share below this says too little about the time left. */
const LEAST_FRACTION_TO_PROJECT = 0.03;

/**
 * The part of the whole that is done.
 *
 * @param stages - All stages in order, the one running included.
 * @param current - Index of the one running.
 * @param share - Of that stage, 0 to 1.
 */
export function overallFraction(stages: readonly StageName[], current: number, share: number): number {
  const total = stages.reduce((sum, stage) => sum + WEIGHT[stage], 0);
  const before = stages.slice(0, current).reduce((sum, stage) => sum + WEIGHT[stage], 0);
  const stage = stages[current];
  return stage ? Math.min(1, (before + WEIGHT[stage] * Math.min(1, Math.max(0, share))) / total) : 1;
}

/**
 * Seconds left: at first by what encodes of the kind took here, and the more is done the more by how this one goes. Its
 * beginning alone says too little: programmes begin with titles and fades, which are quick, and a size is filled in steps that
 * nobody foresees.
 *
 * @param expectedSeconds - Of the whole, by what was learned; null where nothing was, and the rest is taken to go as the part
 *   so far.
 * @returns null while too little is known to say.
 */
export function secondsLeft(fraction: number, elapsedSeconds: number, expectedSeconds: number | null): number | null {
  const projected = fraction < LEAST_FRACTION_TO_PROJECT ? null : elapsedSeconds / fraction;
  if (projected === null) return expectedSeconds && Math.max(0, expectedSeconds - elapsedSeconds);
  const whole = fraction * projected + (1 - fraction) * (expectedSeconds ?? projected);
  return (1 - fraction) * whole;
}
