import type { ScaleCurve } from './curve.ts';
import { interpolate } from './interpolate.ts';

/** How much more one curve takes than another for the same quality. */
export interface RateDelta {
  /** 1 is twice as much, −0.5 half. */
  readonly delta: number;
  /** The qualities both reach, in decibels, over which it is taken. */
  readonly overlap: readonly [from: number, to: number];
  /** That span as a share of all that either reaches. */
  readonly shared: number;
}

const STEPS = 256;

/**
 * Bjøntegaard's delta of rate (VCEG-M33): the mean difference of the logarithms of the sizes over the qualities both reach. The
 * curves between the points are monotone ones instead of one cubic through four, so that three points do and none overshoots.
 *
 * @returns null when they have no quality in common.
 */
export function rateDelta(reference: ScaleCurve, other: ScaleCurve): RateDelta | null {
  const [a, b] = [valuesOf(reference), valuesOf(other)];
  const overlap = [Math.max(a.least, b.least), Math.min(a.most, b.most)] as const;
  if (!(overlap[1] > overlap[0])) return null;
  const width = overlap[1] - overlap[0];
  let sum = 0;
  for (let step = 0; step < STEPS; step += 1) {
    const value = overlap[0] + (width * (step + 0.5)) / STEPS;
    sum += (b.at(value) ?? 0) - (a.at(value) ?? 0);
  }
  const all = Math.max(a.most, b.most) - Math.min(a.least, b.least);
  return { delta: Math.exp(sum / STEPS) - 1, overlap, shared: width / all };
}

function valuesOf({ points }: ScaleCurve) {
  const values = points.map(({ value }) => value);
  return {
    least: Math.min(...values),
    most: Math.max(...values),
    at: interpolate(points.map(({ value, bytes }) => ({ x: value, y: Math.log(bytes) }))),
  };
}
