import type { FrameSize } from '../geometry/frameSize.ts';
import { toNumber, type Rational } from '../timing/rational.ts';
import type { BitsPerSecond } from '../units.ts';
import type { Tier } from './fine.ts';

/** What a decoder of a level must manage; sizes in the codec's own unit of picture area. */
export interface Level {
  readonly name: string;
  readonly perSecond: number;
  readonly perFrame: number;
  /** Pictures held for reference, together. */
  readonly held: number;
  readonly kbps: number;
  /** In the High tier, where there is one. */
  readonly highTierKbps?: number;
}

/** The levels of a codec, from low to high. */
export interface LevelTable {
  /** The side of a unit of picture area in luma samples. */
  readonly unitSide: number;
  readonly levels: readonly Level[];
}

/** A stream as levels see it. */
export interface LeveledStream {
  readonly size: FrameSize;
  readonly rate: Rational;
  /** The highest rate it may average over a while; null where none is held to. */
  readonly bits: BitsPerSecond | null;
  /** Frames held for reference. */
  readonly heldFrames: number;
}

/**
 * The lowest level whose decoders play a stream.
 *
 * @returns Its name as encoders and people write it, such as `4.1`; the highest where none suffices.
 */
export function leastLevel({ unitSide, levels }: LevelTable, stream: LeveledStream): string {
  const fits = (level: Level) => brokenLimit(unitSide, level, 'main', stream) === null;
  return (levels.find(fits) ?? levels.at(-1)!).name;
}

/**
 * Which limit of a level a stream breaks.
 *
 * @param name - As people write it.
 * @returns A sentence; null where it keeps to all of them.
 */
export function findLevelFault(
  { unitSide, levels }: LevelTable,
  name: string,
  tier: Tier,
  stream: LeveledStream,
): string | null {
  const level = levels.find((one) => one.name === name);
  if (!level) return `There is no level ${name}; there are ${levels.map((one) => one.name).join(', ')}.`;
  const broken = brokenLimit(unitSide, level, tier, stream);
  return broken && `Level ${name} ${broken}`;
}

function brokenLimit(unitSide: number, level: Level, tier: Tier, { size, rate, bits, heldFrames }: LeveledStream) {
  const [width, height] = [size.width, size.height].map((side) => Math.ceil(side / unitSide)) as [number, number];
  const area = width * height;
  const unit = unitSide > 1 ? 'macroblocks' : 'luma samples';
  const count = (value: number) => Math.round(value).toLocaleString('en');
  if (area > level.perFrame) return `takes ${count(level.perFrame)} ${unit} a picture; this one has ${count(area)}.`;
  // Neither side may be longer than that of a picture eight times as wide as high (A.3.1, A.4.1).
  if (Math.max(width, height) > Math.sqrt(level.perFrame * 8)) return 'takes no picture so much longer on one side.';
  const perSecond = area * toNumber(rate);
  if (perSecond > level.perSecond) {
    return `takes ${count(level.perSecond)} ${unit} a second; at this rate there are ${count(perSecond)}.`;
  }
  if (area * heldFrames > level.held)
    return `holds fewer pictures for reference than the ${heldFrames} of this effort.`;
  const kbps = tier === 'high' ? (level.highTierKbps ?? level.kbps) : level.kbps;
  if (bits !== null && bits > kbps * 1000) {
    return `takes ${count(kbps)} kb/s; this picture may come to ${count(bits / 1000)}.`;
  }
  return null;
}
