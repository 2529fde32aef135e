import type { FrameSize } from '../geometry/frameSize.ts';
import type { RatedCodec } from '../video/codecs.ts';
import type { Effort } from '../video/definition.ts';
import { interpolate } from './interpolate.ts';

/** How a point came to be known. */
export type PointKind = 'tried' | 'forecast' | 'rendition';

/** What one quality of a codec at a frame size comes to. */
export interface ScalePoint {
  /** On the codec's own scale. */
  readonly quality: number;
  /** The whole file, and between what it lies nine times of ten. */
  readonly bytes: number;
  readonly low: number;
  readonly high: number;
  /** How good it is, in decibels of the measure. */
  readonly value: number;
  /** The same of what one frame in twenty is worse than; null where it is not known. */
  readonly tail: number | null;
  readonly kind: PointKind;
}

/** Size against quality of one codec at one frame size. */
export interface ScaleCurve extends FrameSize {
  readonly codec: RatedCodec;
  /** Another than the order’s. */
  readonly effort?: Effort | undefined;
  /** What encoding the whole takes, in seconds; null while nothing of the kind was encoded here. */
  readonly workSeconds: number | null;
  /** From coarse to fine. */
  readonly points: readonly ScalePoint[];
}

/** A place on a curve, tried or between what was tried. */
export interface ScalePlace extends FrameSize {
  readonly codec: RatedCodec;
  readonly effort?: Effort | undefined;
  readonly quality: number;
  readonly bytes: number;
  readonly value: number;
}

/**
 * Where a curve comes to a size: smooth in the logarithm of the size between the points, never beyond them.
 *
 * @returns The finest point for more bytes than that takes; null for fewer than the coarsest takes.
 */
export function atBytes(curve: ScaleCurve, bytes: number): ScalePlace | null {
  const finest = curve.points.at(-1);
  if (!finest) return null;
  if (bytes >= finest.bytes) return placeOf(curve, finest);
  const value = byBytes(curve, 'value')(Math.log(bytes));
  const quality = byBytes(curve, 'quality')(Math.log(bytes));
  if (value === null || quality === null) return null;
  return placeOf(curve, { quality, bytes, value });
}

/**
 * How far the quality of a curve may lie off where it comes to a size, in decibels: the bar of the point nearest to it, on the
 * slope between its neighbours.
 *
 * @returns 0 for a curve of a single point.
 */
export function doubtAt({ points }: ScaleCurve, bytes: number): number {
  const apart = (point: ScalePoint) => Math.abs(Math.log(point.bytes / bytes));
  const nearest = points.reduce((best, point, index) => (apart(point) < apart(points[best]!) ? index : best), 0);
  const point = points[nearest];
  const [before, after] = [points[nearest - 1] ?? point, points[nearest + 1] ?? point];
  if (!point || !before || !after || after.bytes <= before.bytes) return 0;
  const slope = (after.value - before.value) / Math.log(after.bytes / before.bytes);
  return slope * Math.log(Math.max(point.high / point.bytes, point.bytes / point.low));
}

/**
 * The smallest size at which a curve is at least so good.
 *
 * @returns The coarsest point where that is better already; null where no point is so good.
 */
export function atValue(curve: ScaleCurve, value: number): ScalePlace | null {
  const [coarsest, finest] = [curve.points[0], curve.points.at(-1)];
  if (!coarsest || !finest || value > finest.value) return null;
  if (value <= coarsest.value) return placeOf(curve, coarsest);
  // Its value rises with its size, so halving the span finds it.
  let [low, high] = [Math.log(coarsest.bytes), Math.log(finest.bytes)];
  const at = byBytes(curve, 'value');
  for (let step = 0; step < 40; step += 1) {
    const middle = (low + high) / 2;
    if ((at(middle) ?? Infinity) >= value) high = middle;
    else low = middle;
  }
  return atBytes(curve, Math.exp(high));
}

function byBytes({ points }: ScaleCurve, of: 'value' | 'quality'): (logBytes: number) => number | null {
  return interpolate(points.map((point) => ({ x: Math.log(point.bytes), y: point[of] })));
}

function placeOf(
  { codec, width, height, effort }: ScaleCurve,
  { quality, bytes, value }: Pick<ScalePoint, 'quality' | 'bytes' | 'value'>,
): ScalePlace {
  return { codec, width, height, ...(effort ? { effort } : {}), quality, bytes, value };
}

/**
 * Points in order, as a curve is drawn through them: of two that are as large the better, and none that is larger without
 * being better, since such are rounding or noise.
 */
export function inOrder(points: readonly ScalePoint[]): ScalePoint[] {
  const sorted = points.toSorted((a, b) => a.bytes - b.bytes || b.value - a.value);
  return sorted.filter((point, index) => sorted.slice(0, index).every((before) => before.value < point.value));
}
