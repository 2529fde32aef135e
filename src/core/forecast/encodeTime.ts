import { isMastered, pictureOf, type EncodePlan } from '../plan/encodePlan.ts';
import { VIDEO, type VideoCodec } from '../video/codecs.ts';
import type { Effort } from '../video/definition.ts';

/** What encoders are told apart by when their speed is learned. */
export interface EncodeKind {
  readonly codec: VideoCodec;
  /** null for masters. */
  readonly effort: Effort | null;
  /** Once over the picture, twice, or until a size is filled. */
  readonly way: 'once' | 'twice' | 'filling';
}

/** How fast this machine was at one kind of encode. */
export interface MeasuredSpeed extends EncodeKind {
  /** Pixels worked on a second, encoding and checking together: the slowest, the middle and the fastest seen. */
  readonly pixelsPerSecond: { readonly slowest: number; readonly usual: number; readonly fastest: number };
  readonly encodes: number;
}

/** An encode that was finished here. */
export interface FinishedEncode {
  readonly kind: EncodeKind;
  readonly pixels: number;
  readonly seconds: number;
}

/** Seconds an encode should take. */
export interface TimeEstimate {
  readonly low: number;
  readonly likely: number;
  readonly high: number;
}

/** What kind of encode a plan is; null without a picture, or for a copy. */
export function encodeKindOf(plan: Pick<EncodePlan, 'streams'>): EncodeKind | null {
  const picture = pictureOf(plan);
  if (!picture || picture.do.kind === 'copy') return null;
  if (isMastered(picture)) return { codec: picture.do.codec, effort: null, way: 'once' };
  if (picture.do.kind !== 'encode') return null;
  const { codec, effort, rate } = picture.do;
  if (rate.kind === 'fill') return { codec, effort, way: 'filling' };
  return { codec, effort, way: rate.kind === 'average' && rate.passes === 2 ? 'twice' : 'once' };
}

/** A pixel of the master, which is decoded and compared, costs about so much of one that is encoded (measured, fast efforts). */
const COST_OF_A_MASTERS_PIXEL = 0.5;

/** Pixels that are worked on: those of the result, and those of the master by what they cost beside. */
export function pixelsOf(plan: Pick<EncodePlan, 'streams'>): number {
  const picture = pictureOf(plan);
  if (!picture) return 0;
  const { out, comparedAt } = picture;
  const own = out.size.width * out.size.height;
  return (own + COST_OF_A_MASTERS_PIXEL * comparedAt.width * comparedAt.height) * out.frameCount;
}

/**
 * What finished encodes say of the speed of each kind.
 *
 * @param finished - The latest first; of each kind the latest few count, since machines and programmes change.
 */
export function learnSpeeds(finished: readonly FinishedEncode[]): MeasuredSpeed[] {
  const byKind = new Map<string, { kind: EncodeKind; rates: number[] }>();
  for (const { kind, pixels, seconds } of finished) {
    const key = JSON.stringify([kind.codec, kind.effort, kind.way]);
    const known = byKind.get(key) ?? { kind, rates: [] };
    byKind.set(key, known);
    if (pixels <= 0 || seconds <= 0 || known.rates.length >= REMEMBERED) continue;
    known.rates.push(pixels / Math.max(seconds - STARTING_SECONDS, seconds / 3));
  }
  return [...byKind.values()].flatMap(({ kind, rates }) => {
    const sorted = rates.toSorted((a, b) => a - b);
    const [slowest, usual, fastest] = [sorted[0], sorted[Math.floor(sorted.length / 2)], sorted.at(-1)];
    if (!slowest || !usual || !fastest) return [];
    return [{ ...kind, pixelsPerSecond: { slowest, usual, fastest }, encodes: sorted.length }];
  });
}

/**
 * What a rendition takes however short it is, in seconds: the engine is started a dozen times (measured). What was learned of
 * clips would otherwise promise far too long for programmes.
 */
export const STARTING_SECONDS = 1.2;

/** Encodes of one kind that are remembered. */
const REMEMBERED = 12;

/**
 * One programme takes so many times as long as another of its frame size, or a part of it (measured: drawn dusk, water and a
 * trailer lay up to four times apart); the more were seen, the less is left unseen.
 */
const BY_CONTENT = 2;

/** Where only a kind's like was seen it may lie this much further off, and once more where not even that was. */
const UNSEEN = 1.5;

/** What a pixel of an encode takes against one of H.264's fast effort, once over the picture. */
function workOf({ codec, effort, way }: EncodeKind): number {
  const { work } = VIDEO[codec];
  return WORK[way] * (typeof work === 'number' ? work : work[effort ?? 'balanced']);
}

/** What each way takes against going over the picture once, checks included (measured, demonstration). */
const WORK: Readonly<Record<EncodeKind['way'], number>> = { once: 1, twice: 1.6, filling: 2.2 };

/**
 * How long an encode should take on this machine: by encodes of its kind, or where there were none by those most like it, the
 * same codec and effort first.
 *
 * @returns null while nothing was finished here.
 */
export function foreseeSeconds(
  plan: Pick<EncodePlan, 'streams'>,
  speeds: readonly MeasuredSpeed[],
): TimeEstimate | null {
  const kind = encodeKindOf(plan);
  if (!kind) return null;
  const unlike = (one: EncodeKind) =>
    (one.codec === kind.codec ? 0 : 4) + (one.effort === kind.effort ? 0 : 2) + (one.way === kind.way ? 0 : 1);
  const speed = speeds.toSorted((a, b) => unlike(a) - unlike(b) || b.encodes - a.encodes)[0];
  if (!speed) return null;
  const { slowest, usual, fastest } = speed.pixelsPerSecond;
  const pixels = (pixelsOf(plan) * workOf(kind)) / workOf(speed);
  const unseen = BY_CONTENT ** (1 / Math.sqrt(speed.encodes)) * UNSEEN ** Math.min(2, unlike(speed));
  return {
    low: STARTING_SECONDS + pixels / fastest / unseen,
    likely: STARTING_SECONDS + pixels / usual,
    high: STARTING_SECONDS + (pixels / slowest) * unseen,
  };
}
