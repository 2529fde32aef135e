import { nearestSpeed, STARTING_SECONDS, type MachineSpeeds } from './encodeTime.ts';
import { workOf, type EncodeKind } from './encodeWork.ts';

/** Stretches of a programme that are encoded in several ways in one decode, and compared in another. */
export interface StretchesWork {
  readonly kind: EncodeKind;
  /** Pixels of a frame in each way. */
  readonly ways: readonly number[];
  /** Pixels of the master's frame. */
  readonly masters: number;
  readonly stretches: number;
  /** Of a stretch: with those around it, and those that count. */
  readonly framesEncoded: number;
  readonly framesCompared: number;
}

/** Stretches go side by side, on cores that one rendition leaves idle (measured: 0.65 and 0.62 of what it promises). */
const SIDE_BY_SIDE = 0.65;

/** A result that is compared beside another, in the same decode of the master, takes so much of one alone (measured, 360 lines). */
const COMPARED_BESIDE = 0.6;

/**
 * Seconds that trying stretches takes.
 *
 * @returns null while nothing was finished here.
 */
export function foreseeStretches(
  { kind, ways, masters, stretches, framesEncoded, framesCompared }: StretchesWork,
  { encoding, checkedPixelsPerSecond }: MachineSpeeds,
): number | null {
  const speed = nearestSpeed(kind, encoding);
  if (!speed || !checkedPixelsPerSecond) return null;
  if (ways.length === 0 || stretches === 0) return 0;
  const own = ways.reduce((sum, one) => sum + one, 0);
  const pixels = { own: own * framesEncoded, masters: masters * framesEncoded };
  const encode = workOf(kind, pixels, speed.bitsPerPixel) / speed.workPerSecond.usual;
  const compared = masters * framesCompared * (1 + COMPARED_BESIDE * (ways.length - 1));
  return SIDE_BY_SIDE * stretches * (STARTING_SECONDS + encode + compared / checkedPixelsPerSecond);
}
