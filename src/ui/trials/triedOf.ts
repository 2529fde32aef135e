import type { ScaleCurve } from '../../core/scale/curve.ts';

/** The curves as they were tried, without what was made since. */
export function triedOf(curves: readonly ScaleCurve[]): ScaleCurve[] {
  return curves
    .map((curve) => ({ ...curve, points: curve.points.filter(({ kind }) => kind === 'tried') }))
    .filter(({ points }) => points.length > 0);
}
