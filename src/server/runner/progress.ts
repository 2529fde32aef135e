import type { TimeEstimate } from '../../core/forecast/encodeTime.ts';
import type { PassName } from '../../core/plan/encodePlan.ts';

/** What a runner is doing, from which fraction and time left follow. */
export type StageName = PassName | 'checking';

/** How long stages take, relative to each other. */
export type StageWeights = Readonly<Record<StageName, number>>;

/** Against a pass that encodes (measured, 720 lines, balanced effort). */
const USUAL_WEIGHTS: StageWeights = {
  sound: 0.06,
  analysis: 1,
  encode: 1,
  correction: 1,
  // A group of pictures of a dozen, as a rule.
  retouch: 0.12,
  copy: 0.06,
  checking: 0.45,
};

/** Checks take no more and no less than this against a pass, whatever was learned. */
const LEAST_OF_CHECKS = 0.05;
const MOST_OF_CHECKS = 3;

/**
 * How long the stages of a rendition take, relative to each other.
 *
 * @param stages - All that are foreseen besides the last checks.
 * @param firstPass - What the first of two passes takes against the second.
 * @param expected - Seconds of the whole and of the last checks, by what was learned; null where nothing was.
 */
export function weighStages(
  stages: readonly StageName[],
  firstPass: number,
  expected: Pick<TimeEstimate, 'likely' | 'checking'> | null,
): StageWeights {
  const weights = { ...USUAL_WEIGHTS, analysis: firstPass };
  const encoding = expected ? expected.likely - expected.checking : 0;
  if (!expected || encoding <= 0) return weights;
  // What is measured on the way to a size is part of encoding it.
  const others = stages.filter((stage) => stage !== 'checking');
  const share = expected.checking / encoding;
  const rest = 1 - share * (stages.length - others.length);
  const passes = others.reduce((sum, stage) => sum + weights[stage], 0);
  const checking = rest > 0 ? (share * passes) / rest : MOST_OF_CHECKS;
  return { ...weights, checking: Math.min(MOST_OF_CHECKS, Math.max(LEAST_OF_CHECKS, checking)) };
}

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
export function overallFraction(
  weights: StageWeights,
  stages: readonly StageName[],
  current: number,
  share: number,
): number {
  const total = stages.reduce((sum, stage) => sum + weights[stage], 0);
  const before = stages.slice(0, current).reduce((sum, stage) => sum + weights[stage], 0);
  const stage = stages[current];
  return stage ? Math.min(1, (before + weights[stage] * Math.min(1, Math.max(0, share))) / total) : 1;
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
