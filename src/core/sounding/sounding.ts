import { SURE } from '../excerpts/foresee.ts';
import type { FrameSize } from '../geometry/frameSize.ts';
import { bitsPerSecond, type BitsPerSecond } from '../units.ts';
import type { VideoCodec } from '../video/codecs.ts';
import type { QualityScale } from '../video/definition.ts';

/** Measured rates of one portion in one codec at one frame size, from short stretches encoded quickly. */
export interface Sounding {
  readonly codec: VideoCodec;
  readonly size: FrameSize;
  /**
   * From fine to coarse: constant quality against the picture's mean rate. At least two; of a codec for masters, which has no quality to
   * choose, the one at 0.
   */
  readonly points: readonly { readonly quality: number; readonly bitsPerSecond: number }[];
  /** How far the truth may lie from it, as shares; where it is not told it is a quick sounding, and as far off as those are. */
  readonly error?: { readonly below: number; readonly above: number };
  /** Set while it is of places that were chosen before anyone knew how busy they are, or of some qualities: more will be measured. */
  readonly isRough?: true;
  /** Set while only these qualities and what lies between them were measured: the ends are what is usual of the codec. */
  readonly between?: readonly [finer: number, coarser: number];
  /** Set where the rest of it could not be measured, so that it stays as it is. */
  readonly isEnd?: true;
}

/**
 * How far the truth lay from a sounding, as shares of it: quick encodes of stretches against full encodes of the
 * demonstration's programmes at every effort (measured by `npm run bench`).
 */
export const SOUNDING_ERROR = { below: 0.35, above: 0.45 } as const;

/**
 * How far it may lie from a rough one. Of an hour of scenes twelve evenly spaced stretches missed by 27 % in the median and one
 * of ten by 64 (measured, drawn at random from the bits of the whole); what quick encodes are off by comes on top.
 */
export const ROUGH_ERROR = { below: 0.5, above: 1 } as const;

/**
 * The qualities that are sounded next: first the two around one that someone wants to know, with the coarsest, which takes next to
 * nothing; then all others. The two finest take more than half of the time.
 *
 * @param known - Those that were sounded already, in any order.
 * @param wanted - null for all at once.
 * @returns From fine to coarse; empty when all were.
 */
export function nextToSound(
  { sounded }: QualityScale,
  known: readonly number[],
  wanted: number | null,
): readonly number[] {
  if (known.length > 0 || wanted === null) return sounded.filter((quality) => !known.includes(quality));
  const beyond = sounded.findIndex((quality) => quality > wanted);
  const coarser = Math.max(1, beyond === -1 ? sounded.length - 1 : beyond);
  return [...new Set([sounded[coarser - 1]!, sounded[coarser]!, sounded.at(-1)!])];
}

/**
 * What is known while only the first qualities were sounded: as near as ever between the two, and roughly beyond.
 *
 * @param sounding - At least two points.
 */
export function soundedInPart(sounding: Sounding, scale: QualityScale): Sounding {
  const { points, isRough } = sounding;
  const rough = { ...withEnds(sounding, null, scale), error: ROUGH_ERROR, isRough: true } as const;
  return isRough ? rough : { ...rough, between: [points[0]!.quality, points[1]!.quality] };
}

/** The sounding as it tells of one quality: between two that were measured, whatever lies beyond them. */
export function soundingAt(sounding: Sounding, quality: number): Sounding {
  const { between, codec, size, points } = sounding;
  const isBetween = between && quality >= between[0] && quality <= between[1];
  return isBetween ? { codec, size, points } : sounding;
}

/**
 * The rate expected at a constant quality: straight between the measured points in the logarithm of the rate.
 *
 * @param quality - Beyond the measured points the outermost slope goes on.
 */
export function soundedRate({ points }: Pick<Sounding, 'points'>, quality: number): BitsPerSecond {
  const after = points.findIndex((point) => point.quality >= quality);
  const upper = Math.min(points.length - 1, Math.max(1, after === -1 ? points.length - 1 : after));
  const [a, b] = [points[upper - 1]!, points[upper]!];
  const share = (quality - a.quality) / (b.quality - a.quality);
  const log = Math.log(a.bitsPerSecond) * (1 - share) + Math.log(b.bitsPerSecond) * share;
  return bitsPerSecond(Math.exp(log));
}

/**
 * The constant quality expected to come to a rate: straight between the measured points, and no further than they go.
 */
export function qualityOfRate({ points }: Sounding, rate: BitsPerSecond): number {
  const coarser = points.findIndex((point) => point.bitsPerSecond <= rate);
  if (coarser === -1) return points.at(-1)!.quality;
  const [a, b] = [points[coarser - 1], points[coarser]!];
  if (!a) return b.quality;
  const share = Math.log(a.bitsPerSecond / rate) / Math.log(a.bitsPerSecond / b.bitsPerSecond);
  return a.quality + (b.quality - a.quality) * share;
}

/** Between two points the rate may fall so many times as steeply as is usual of a codec, and it is still told between them. */
const STEEP = 2;

/** As near to a point, as the logarithm of the usual size, the point itself tells. */
const BESIDE_A_POINT = Math.log(1.1);

/**
 * Whether a look at this very quality would tell more: between the points around it grain is dropped, and nobody knows where. Of a clip of
 * grain sizes lay up to half beside the straight line there (measured).
 */
export function isWorthACloserLook({ points }: Sounding, { slope }: QualityScale, quality: number): boolean {
  const after = points.findIndex((point) => point.quality >= quality);
  const [a, b] = [points[after - 1], points[after]];
  if (!a || !b) return false;
  const isSteep = Math.log(b.bitsPerSecond / a.bitsPerSecond) / (b.quality - a.quality) < STEEP * slope;
  return isSteep && Math.min(quality - a.quality, b.quality - quality) * -slope > BESIDE_A_POINT;
}

/** The rate above which more bytes show nothing. */
export function saturatingRate(sounding: Sounding): BitsPerSecond {
  return bitsPerSecond(sounding.points[0]!.bitsPerSecond);
}

/** About the lowest rate the encoder reaches at this frame size. */
export function floorRate(sounding: Sounding): BitsPerSecond {
  return bitsPerSecond(sounding.points.at(-1)!.bitsPerSecond);
}

/**
 * What was tried, with the ends of the scale beyond it: as a quick sounding has them, put right by how far it lay off where
 * the trials end, or on by what is usual of the codec. They only tell where a size saturates and what no encoder reaches.
 *
 * @param tried - At least one point, from fine to coarse.
 */
export function withEnds(tried: Sounding, quick: Sounding | null, scale: QualityScale): Sounding {
  const [finest, coarsest] = [tried.points[0]!, tried.points.at(-1)!];
  const beyond = (from: (typeof tried.points)[number], quality: number) => {
    const rate = quick
      ? (soundedRate(quick, quality) / soundedRate(quick, from.quality)) * from.bitsPerSecond
      : from.bitsPerSecond * Math.exp((quality - from.quality) * scale.slope);
    return { quality, bitsPerSecond: Math.max(1, Math.round(rate)) };
  };
  return {
    ...tried,
    points: [
      ...(finest.quality > scale.finestSensible ? [beyond(finest, scale.finestSensible)] : []),
      ...tried.points,
      ...(coarsest.quality < scale.worst ? [beyond(coarsest, scale.worst)] : []),
    ],
  };
}

/** Bytes of each frame of a stretch that was encoded quickly, in the order they are decoded; the first is a keyframe. */
export type GaugedStretch = readonly number[];

/**
 * The mean rate of a portion from its stretches. Each begins with a keyframe, and the real encode has far fewer: where
 * little moves, keyframes are nearly everything, and counting one every two seconds foresaw still pictures at more than
 * twice what they came to (measured).
 *
 * @param keyframeInterval - Frames from keyframe to keyframe in the real encode.
 * @param isWhole - The stretches are all of the portion, so that they are its size.
 * @returns At least 1 bit per second.
 */
export function gaugedRate(
  stretches: readonly GaugedStretch[],
  framesPerSecond: number,
  keyframeInterval: number,
  isWhole: boolean,
): BitsPerSecond {
  const total = { frames: 0, first: 0, other: 0 };
  for (const frames of stretches) {
    const [first = 0, ...others] = frames;
    total.frames += frames.length;
    total.first += first;
    total.other += others.reduce((sum, size) => sum + size, 0);
  }
  const keyframe = total.first / stretches.length;
  const other = total.other / Math.max(1, total.frames - stretches.length);
  const bytesOfOneFrame = isWhole
    ? (total.first + total.other) / total.frames
    : keyframe / keyframeInterval + other * (1 - 1 / keyframeInterval);
  return bitsPerSecond(Math.max(1, bytesOfOneFrame * 8 * framesPerSecond));
}

/** However alike the places look: what between them nobody saw. Of the whole only the container's rounding is left. */
const LEAST_ERROR = 0.02;
const ERROR_OF_WHOLE = 0.005;

/**
 * The mean rate of a picture whose frames stand by themselves, from a few frames in many places, and how far it may be off.
 *
 * @param places - Bytes of each frame; more than three places, or the whole.
 * @param isWhole - One place that is all of the portion.
 */
export function sampledRate(
  places: readonly GaugedStretch[],
  framesPerSecond: number,
  isWhole: boolean,
): { readonly bitsPerSecond: BitsPerSecond; readonly error: number } {
  const means = places.map((frames) => frames.reduce((sum, size) => sum + size, 0) / Math.max(1, frames.length));
  const mean = means.reduce((sum, one) => sum + one, 0) / means.length;
  const rate = bitsPerSecond(Math.max(1, mean * 8 * framesPerSecond));
  if (isWhole || mean <= 0) return { bitsPerSecond: rate, error: ERROR_OF_WHOLE };
  const count = means.length;
  const variance = means.reduce((sum, one) => sum + (one / mean - 1) ** 2, 0) / Math.max(1, count - 1);
  // Few places may look more alike than all are: the variance of Student's distribution.
  const few = Math.sqrt((count - 1) / Math.max(1, count - 3));
  return { bitsPerSecond: rate, error: Math.hypot(SURE * few * Math.sqrt(variance / count), LEAST_ERROR) };
}
