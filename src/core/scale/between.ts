import { interpolate } from './interpolate.ts';
import type { ScaleCurve, ScalePoint } from './curve.ts';

/** Share of a size that a smooth curve through tried points is taken to miss besides (measured: 1 to 2 %). */
const LEAST_DOUBT = 0.01;

/**
 * A curve with what is foreseen between what was tried: one point in the middle of each two neighbours, smooth in the logarithm
 * of the size. Its bar is as wide as theirs, and wider by as much as the smooth way and the straight one disagree. Nothing is
 * foreseen beyond what was tried.
 *
 * @param step - Of the codec's quality scale.
 */
export function withForecasts(curve: ScaleCurve, step: number): ScaleCurve {
  const tried = curve.points.toSorted((a, b) => a.quality - b.quality);
  const smooth = (of: (point: ScalePoint) => number) =>
    interpolate(tried.map((one) => ({ x: one.quality, y: of(one) })));
  const [logBytes, value] = [smooth(({ bytes }) => Math.log(bytes)), smooth((point) => point.value)];
  const tail = tried.every((point) => point.tail !== null) ? smooth((point) => point.tail ?? 0) : null;
  const foreseen = tried.slice(1).flatMap((b, index): ScalePoint[] => {
    const a = tried[index]!;
    const quality = Math.round((a.quality + b.quality) / 2 / step) * step;
    const [log, good] = [logBytes(quality), value(quality)];
    if (quality <= a.quality || quality >= b.quality || log === null || good === null) return [];
    const share = (quality - a.quality) / (b.quality - a.quality);
    const between = (of: (point: ScalePoint) => number) => of(a) * (1 - share) + of(b) * share;
    const doubt = LEAST_DOUBT + Math.abs(log - between(({ bytes }) => Math.log(bytes)));
    const bytes = Math.round(Math.exp(log));
    return [
      {
        quality,
        bytes,
        low: Math.round(Math.exp(log - between((one) => Math.log(one.bytes / one.low)) - doubt)),
        high: Math.round(Math.exp(log + between((one) => Math.log(one.high / one.bytes)) + doubt)),
        value: good,
        tail: tail?.(quality) ?? null,
        kind: 'forecast',
      },
    ];
  });
  return { ...curve, points: [...curve.points, ...foreseen].sort((a, b) => a.bytes - b.bytes) };
}
