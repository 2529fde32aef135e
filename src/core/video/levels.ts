import type { FrameSize } from '../geometry/frameSize.ts';
import { toNumber, type Rational } from '../timing/rational.ts';
import type { BitsPerSecond } from '../units.ts';

/** What a decoder of a level must manage; sizes in the codec's own unit of picture area. */
export interface Level {
  readonly name: string;
  readonly perSecond: number;
  readonly perFrame: number;
  /** Pictures held for reference, together. */
  readonly held: number;
  readonly kbps: number;
}

/** The levels of a codec, from low to high. */
export interface LevelTable {
  /** The side of a unit of picture area in luma samples. */
  readonly unitSide: number;
  readonly levels: readonly Level[];
}

/**
 * The lowest level whose decoders play a stream.
 *
 * @param bits - The highest rate it may average over a while.
 * @param heldFrames - Frames held for reference.
 * @returns Its name as encoders and people write it, such as `4.1`; the highest where none suffices.
 */
export function leastLevel(
  { unitSide, levels }: LevelTable,
  size: FrameSize,
  rate: Rational,
  bits: BitsPerSecond,
  heldFrames: number,
): string {
  const [width, height] = [size.width, size.height].map((side) => Math.ceil(side / unitSide)) as [number, number];
  const area = width * height;
  const suffices = (level: Level) =>
    area <= level.perFrame &&
    // Neither side may be longer than that of a picture eight times as wide as high (A.3.1, A.4.1).
    Math.max(width, height) <= Math.sqrt(level.perFrame * 8) &&
    area * toNumber(rate) <= level.perSecond &&
    area * heldFrames <= level.held &&
    bits <= level.kbps * 1000;
  return (levels.find(suffices) ?? levels.at(-1)!).name;
}
