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
 * Seconds left if the rest goes as the part so far.
 *
 * @returns null while too little is done to say.
 */
export function secondsLeft(fraction: number, elapsedSeconds: number): number | null {
  if (fraction < LEAST_FRACTION_TO_PROJECT) return null;
  return (elapsedSeconds * (1 - fraction)) / fraction;
}
