import { bitsBetween } from '../analysis/busyness.ts';
import type { Findings } from '../analysis/conclude.ts';
import { costOfDensity } from './encodeWork.ts';

/**
 * How much of the work of a pass is done, by how much of its frames is.
 *
 * @param share - Of the frames, from 0 to 1.
 */
export type Pace = (share: number) => number;

/** As much work as frames: where nothing is known of what is in them. */
export const EVEN_PACE: Pace = (share) => share;

/** Stretches that a portion is looked at in. */
const STRETCHES = 100;

/** Bits a pixel of the middle stretch, which the others are held against: the analysis' own encode is not the rendition. */
const MIDDLE_DENSITY = 0.03;

/**
 * The pace of passes over a portion: titles and fades go quickly, what is busy takes its time.
 *
 * @param startSeconds - Of the portion, in the programme.
 */
export function paceOf(
  busyness: NonNullable<Findings['busyness']>,
  { startSeconds, seconds }: { readonly startSeconds: number; readonly seconds: number },
): Pace {
  const ends = Array.from({ length: STRETCHES + 1 }, (_, index) => startSeconds + (seconds * index) / STRETCHES);
  const bits = ends.slice(1).map((end, index) => bitsBetween(busyness, ends[index]!, end));
  const middle = bits.toSorted((a, b) => a - b)[STRETCHES / 2]!;
  if (middle <= 0) return EVEN_PACE;
  const done = [0];
  for (const one of bits) done.push(done.at(-1)! + costOfDensity((one / middle) * MIDDLE_DENSITY));
  const all = done.at(-1)!;
  return (share) => {
    const at = Math.min(1, Math.max(0, share)) * STRETCHES;
    const before = Math.min(STRETCHES - 1, Math.floor(at));
    return (done[before]! + (at - before) * (done[before + 1]! - done[before]!)) / all;
  };
}
