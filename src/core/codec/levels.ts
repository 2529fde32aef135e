import type { FrameSize } from '../geometry/frameSize.ts';
import { toNumber, type Rational } from '../timing/rational.ts';
import type { BitsPerSecond } from '../units.ts';
import type { VideoCodec } from './tables.ts';

/** What a decoder of a level must manage; sizes in the codec's own unit of picture area. */
interface Level {
  readonly name: string;
  readonly perSecond: number;
  readonly perFrame: number;
  /** Pictures held for reference, together. */
  readonly held: number;
  readonly kbps: number;
}

/** ITU-T H.264 table A-1, in macroblocks, with the rates of High profile (1.25 times those of Main); 6 to 6.2 from memory. */
const H264_LEVELS: readonly Level[] = (
  [
    ['1.0', 1485, 99, 396, 64],
    ['1.1', 3000, 396, 900, 192],
    ['1.2', 6000, 396, 2376, 384],
    ['1.3', 11880, 396, 2376, 768],
    ['2.0', 11880, 396, 2376, 2000],
    ['2.1', 19800, 792, 4752, 4000],
    ['2.2', 20250, 1620, 8100, 4000],
    ['3.0', 40500, 1620, 8100, 10000],
    ['3.1', 108000, 3600, 18000, 14000],
    ['3.2', 216000, 5120, 20480, 20000],
    ['4.0', 245760, 8192, 32768, 20000],
    ['4.1', 245760, 8192, 32768, 50000],
    ['4.2', 522240, 8704, 34816, 50000],
    ['5.0', 589824, 22080, 110400, 135000],
    ['5.1', 983040, 36864, 184320, 240000],
    ['5.2', 2073600, 36864, 184320, 240000],
    ['6.0', 4177920, 139264, 696320, 240000],
    ['6.1', 8355840, 139264, 696320, 480000],
    ['6.2', 16711680, 139264, 696320, 800000],
  ] as const
).map(([name, perSecond, perFrame, held, kbps]) => ({ name, perSecond, perFrame, held, kbps: kbps * 1.25 }));

/** ITU-T H.265 tables A.8 and A.9, in luma samples, Main tier; six of the largest pictures are held; 6 to 6.2 from memory. */
const HEVC_LEVELS: readonly Level[] = (
  [
    ['3.0', 552960, 16588800, 6000],
    ['3.1', 983040, 33177600, 10000],
    ['4.0', 2228224, 66846720, 12000],
    ['4.1', 2228224, 133693440, 20000],
    ['5.0', 8912896, 267386880, 25000],
    ['5.1', 8912896, 534773760, 40000],
    ['5.2', 8912896, 1069547520, 60000],
    ['6.0', 35651584, 1069547520, 60000],
    ['6.1', 35651584, 2139095040, 120000],
    ['6.2', 35651584, 4278190080, 240000],
  ] as const
).map(([name, perFrame, perSecond, kbps]) => ({ name, perSecond, perFrame, held: perFrame * 6, kbps }));

const LEVELS: Readonly<Record<VideoCodec, readonly Level[]>> = { h264: H264_LEVELS, hevc: HEVC_LEVELS };

/** The side of a unit of picture area in luma samples. */
const UNIT_SIDE: Readonly<Record<VideoCodec, number>> = { h264: 16, hevc: 1 };

/**
 * The lowest level whose decoders play a stream.
 *
 * @param bits - The highest rate it may average over a while.
 * @param heldFrames - Frames held for reference.
 * @returns Its name as encoders and people write it, such as `4.1`; the highest where none suffices.
 */
export function leastLevel(
  codec: VideoCodec,
  size: FrameSize,
  rate: Rational,
  bits: BitsPerSecond,
  heldFrames: number,
): string {
  const [width, height] = [size.width, size.height].map((side) => Math.ceil(side / UNIT_SIDE[codec])) as [
    number,
    number,
  ];
  const area = width * height;
  const suffices = (level: Level) =>
    area <= level.perFrame &&
    // Neither side may be longer than that of a picture eight times as wide as high (A.3.1, A.4.1).
    Math.max(width, height) <= Math.sqrt(level.perFrame * 8) &&
    area * toNumber(rate) <= level.perSecond &&
    area * heldFrames <= level.held &&
    bits <= level.kbps * 1000;
  return (LEVELS[codec].find(suffices) ?? LEVELS[codec].at(-1)!).name;
}
