import { atBytes, atValue, doubtAt, type ScaleCurve, type ScalePlace } from './curve.ts';

/** How much better one place is than what else there was. */
export interface Choice {
  readonly place: ScalePlace;
  /** The best of another frame size or codec under the same condition, where there is one. */
  readonly next: ScalePlace | null;
  /** How far the difference of both may lie off, in decibels, by the bars of what was tried. */
  readonly doubt: number;
}

/**
 * The best that fits under a cap.
 *
 * @param capBytes - Of the whole file.
 * @returns null when no curve goes so low.
 */
export function bestUnder(curves: readonly ScaleCurve[], capBytes: number): Choice | null {
  return choose(
    curves,
    (curve) => atBytes(curve, capBytes),
    (a, b) => b.value - a.value || a.bytes - b.bytes,
  );
}

/** Those curves that are encoded in so many seconds; what is not known is left out. */
export function withinTime(curves: readonly ScaleCurve[], seconds: number): ScaleCurve[] {
  return curves.filter(({ workSeconds }) => workSeconds !== null && workSeconds <= seconds);
}

/**
 * The smallest file that is at least so good.
 *
 * @param value - In decibels of the measure.
 * @returns null when no curve comes so high.
 */
export function smallestAtLeast(curves: readonly ScaleCurve[], value: number): Choice | null {
  return choose(
    curves,
    (curve) => atValue(curve, value),
    (a, b) => a.bytes - b.bytes || b.value - a.value,
  );
}

function choose(
  curves: readonly ScaleCurve[],
  placeOn: (curve: ScaleCurve) => ScalePlace | null,
  byRank: (a: ScalePlace, b: ScalePlace) => number,
): Choice | null {
  const [first, second] = curves
    .flatMap((curve) => {
      const place = placeOn(curve);
      return place ? [{ curve, place }] : [];
    })
    .toSorted((a, b) => byRank(a.place, b.place));
  if (!first) return null;
  const doubts = [first, second].map((one) => (one ? doubtAt(one.curve, one.place.bytes) : 0));
  return { place: first.place, next: second?.place ?? null, doubt: Math.hypot(...doubts) };
}

/** Steps along the envelope for each doubling of the size. */
const STEPS_A_DOUBLING = 16;

/** The best of all curves at each size, from the smallest that any comes to, evenly in the logarithm. */
export function envelopeOf(curves: readonly ScaleCurve[]): ScalePlace[] {
  const all = curves.flatMap(({ points }) => points.map(({ bytes }) => bytes));
  if (all.length === 0) return [];
  const [least, most] = [Math.min(...all), Math.max(...all)];
  const steps = Math.max(1, Math.ceil(Math.log2(most / least) * STEPS_A_DOUBLING));
  return Array.from({ length: steps + 1 }, (_, step) => {
    const bytes = step === steps ? most : least * (most / least) ** (step / steps);
    return bestUnder(curves, bytes)?.place ?? null;
  }).filter((place) => place !== null);
}

/** From where twice the bytes buy less than this, in decibels, more bytes are hardly seen (common practice, no source). */
export const KNEE_DB = 0.3;

/**
 * From where on twice the bytes never buy `KNEE_DB` any more.
 *
 * @returns null when the curves end before that can be said.
 */
export function kneeOf(curves: readonly ScaleCurve[]): ScalePlace | null {
  const envelope = envelopeOf(curves);
  const most = envelope.at(-1)?.bytes ?? 0;
  const doubled = envelope.filter(({ bytes }) => bytes * 2 <= most);
  const buys = (place: ScalePlace) => (bestUnder(curves, place.bytes * 2)?.place.value ?? Infinity) - place.value;
  const last = doubled.findLastIndex((place) => buys(place) >= KNEE_DB);
  return doubled[last + 1] ?? null;
}
