import { isMastered, pictureOf, type EncodePlan } from '../plan/encodePlan.ts';
import { isRated, RATED, RATED_CODECS, VIDEO, type VideoCodec } from '../video/codecs.ts';
import type { Effort } from '../video/definition.ts';

/** What encoders are told apart by when their speed is learned. */
export interface EncodeKind {
  readonly codec: VideoCodec;
  /** null for masters, and in hardware. */
  readonly effort: Effort | null;
  /** Once over the picture, twice, or until a size is filled. */
  readonly way: 'once' | 'twice' | 'filling';
}

/** The encode that work is counted in: the quickest of all. */
export const UNIT: EncodeKind = { codec: RATED_CODECS[0]!, effort: 'fast', way: 'once' };

/** What kind of encode a plan is; null without a picture, or for a copy. */
export function encodeKindOf(plan: Pick<EncodePlan, 'streams' | 'budget'>): EncodeKind | null {
  const picture = pictureOf(plan);
  if (!picture || picture.do.kind === 'copy') return null;
  if (isMastered(picture)) return { codec: picture.do.codec, effort: null, way: 'once' };
  if (picture.do.kind !== 'encode') return null;
  const { codec, rate } = picture.do;
  const effort = picture.do.hardware ? null : picture.do.effort;
  // Where the cap leaves room at the finest quality, that is encoded, and nothing is left to fill.
  if (rate.kind === 'fill' && plan.budget.binds !== 'finest-quality') return { codec, effort, way: 'filling' };
  return { codec, effort, way: rate.kind === 'average' && rate.passes === 2 ? 'twice' : 'once' };
}

/** Pixels that are gone through for a result. */
export interface PixelsWorked {
  /** Of the result. */
  readonly own: number;
  /** Of the master, which is decoded and compared. */
  readonly masters: number;
}

/** Pixels of a plan's picture; none without one. */
export function pixelsOf(plan: Pick<EncodePlan, 'streams'>): PixelsWorked {
  const picture = pictureOf(plan);
  if (!picture) return { own: 0, masters: 0 };
  const { out, comparedAt } = picture;
  return {
    own: out.size.width * out.size.height * out.frameCount,
    masters: comparedAt.width * comparedAt.height * out.frameCount,
  };
}

/**
 * Bits a pixel of a result.
 *
 * @param bytes - Of the whole file; null where that is not foreseen.
 * @returns null where it is not foreseen, or there is no picture.
 */
export function densityOf(
  { own, restBytes }: Pick<PlannedWork, 'own' | 'restBytes'>,
  bytes: number | null,
): number | null {
  return bytes === null || own === 0 ? null : (Math.max(0, bytes - restBytes) * 8) / own;
}

/** A pixel of the master, decoded and scaled, costs about so much of one that is encoded fast in H.264 (measured). */
const COST_OF_A_MASTERS_PIXEL = 0.15;

/**
 * The more bits a picture takes the longer encoding takes: by this power of the bits a pixel, from this density on (measured:
 * nine scenes at 540 lines and two or three qualities, 0.33 in H.264, 0.32 in VP9, 0.29 in HEVC, 0.25 in AV1; what scenes and
 * qualities lie apart is half as much with it).
 */
const POWER_OF_DENSITY = 0.3;
/** Bits a pixel of a usual result. */
export const USUAL_DENSITY = 0.03;
/** A picture in which nothing moves is still looked at. */
const LEAST_DENSITY = 0.001;

/** How many times as long a picture of so many bits a pixel takes as one of usual density. */
export function costOfDensity(bitsPerPixel: number): number {
  return (Math.max(LEAST_DENSITY, bitsPerPixel) / USUAL_DENSITY) ** POWER_OF_DENSITY;
}

/**
 * What a size takes against going over the picture once, aside from starting its groups (measured: programmes of minutes took 1 to 1.5, clips
 * of twelve groups up to 2.5).
 */
const FILLING = 1.6;

/** What the first pass takes against the second. */
export function firstPassOf(codec: VideoCodec): number {
  return isRated(codec) ? RATED[codec].firstPass : 1;
}

function passesOf({ codec, way }: EncodeKind): number {
  if (way === 'filling') return FILLING;
  return way === 'twice' ? 1 + firstPassOf(codec) : 1;
}

/**
 * The work of an encode, in pixels encoded fast in H.264 at the usual density.
 *
 * @param bitsPerPixel - Of the result.
 */
export function workOf(kind: EncodeKind, { own, masters }: PixelsWorked, bitsPerPixel: number): number {
  const { codec, effort } = kind;
  const { work } = VIDEO[codec];
  const ofPixel = typeof work === 'number' ? work : work[effort ?? 'balanced'];
  return passesOf(kind) * (ofPixel * own * costOfDensity(bitsPerPixel) + COST_OF_A_MASTERS_PIXEL * masters);
}

/** What a plan's encode comes to, as it is kept beside it. */
export interface PlannedWork extends PixelsWorked {
  /** null where no picture is encoded. */
  readonly kind: EncodeKind | null;
  /** `workOf`, at the density that is foreseen, or at the usual one. */
  readonly work: number;
  /** Whether the density is foreseen. */
  readonly isForeseen: boolean;
  /** Bytes of the file that are no picture. */
  readonly restBytes: number;
}

/** What a plan's encode comes to. */
export function workOfPlan(plan: Pick<EncodePlan, 'streams' | 'budget'>): PlannedWork {
  const kind = encodeKindOf(plan);
  const pixels = pixelsOf(plan);
  const { audio, container } = plan.budget.split;
  const bitsPerPixel = densityOf({ ...pixels, restBytes: audio + container }, plan.budget.expected?.likely ?? null);
  const work = kind ? workOf(kind, pixels, bitsPerPixel ?? USUAL_DENSITY) : 0;
  return { kind, ...pixels, work, isForeseen: bitsPerPixel !== null, restBytes: audio + container };
}
