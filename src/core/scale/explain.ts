import { VIDEO } from '../video/codecs.ts';
import { KNEE_DB, type Choice } from './best.ts';
import type { ScalePlace } from './curve.ts';

/** A codec and a frame size, as they are told apart in words. */
export function nameCurve({
  codec,
  width,
  height,
  effort,
}: Pick<ScalePlace, 'codec' | 'width' | 'height' | 'effort'>): string {
  return `${VIDEO[codec].name} at ${width} × ${height}${effort ? `, ${effort}` : ''}`;
}

/** Below this a difference in decibels is not seen (common practice, no source). */
export const UNSEEN_DB = 0.1;

/** Why a place is the best under a cap. */
export function explainBest({ place, next, doubt }: Choice, capBytes: number): string {
  const under = `under ${sayBytes(capBytes)}`;
  if (!next) return `${nameCurve(place)} alone was tried ${under}; nothing else comes so low.`;
  const by = place.value - next.value;
  if (place.bytes < capBytes * 0.98) {
    return `${nameCurve(place)} reaches its finest tried quality with ${sayBytes(place.bytes)}; the cap leaves room.`;
  }
  if (by < UNSEEN_DB)
    return `${nameCurve(place)} is as good as ${nameCurve(next)} ${under}; the difference is not seen.`;
  const beats = `${nameCurve(place)} beats ${nameCurve(next)} by ${by.toFixed(1)} dB ${under}`;
  return by < doubt
    ? `${beats}, as far as so few excerpts can tell: it may be off by ${doubt.toFixed(1)} dB.`
    : `${beats}.`;
}

/** What the knee is. */
export function explainKnee(place: ScalePlace): string {
  return `Above ${sayBytes(place.bytes)} each doubling buys less than ${KNEE_DB} dB.`;
}

function sayBytes(bytes: number): string {
  const [unit, name] = bytes >= 1e9 ? [1e9, 'GB'] : bytes >= 1e6 ? [1e6, 'MB'] : [1e3, 'kB'];
  return `${(bytes / unit).toPrecision(3)} ${name}`;
}

/** Why a place is the smallest that is so good. */
export function explainSmallest({ place, next }: Choice): string {
  const what = `is reached by ${nameCurve(place)}`;
  if (!next || next.bytes <= place.bytes * 1.02) return `${what}.`;
  const saved = (1 - place.bytes / next.bytes) * 100;
  return `${what}, with ${saved.toFixed(0)} % fewer bytes than ${nameCurve(next)}.`;
}
