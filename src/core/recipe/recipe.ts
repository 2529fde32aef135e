import type { Findings } from '../analysis/conclude.ts';
import { CONTAINERS, type Container } from '../container/names.ts';
import type { Tags } from '../container/tags.ts';
import { SQUARE, type FrameSize, type PixelAspect } from '../geometry/frameSize.ts';
import { cutToFill, frameOf, framedSize, leftOf, turnedAspect, type Framing } from '../geometry/framing.ts';
import { AS_IT_IS, type Preparation } from '../geometry/preparation.ts';
import type { ProgrammeFacts, VideoFacts } from '../programme/facts.ts';
import { SOUND_CODECS, type SoundCodec } from '../sound/codecs.ts';
import type { Channels, SoundDepth } from '../sound/definition.ts';
import type { SoundLevel } from '../sound/loudness.ts';
import { UNTREATED, type SoundTreatment } from '../sound/treatment.ts';
import {
  isRated,
  KEYFRAME_SECONDS,
  MASTERS,
  RATED,
  RATED_CODECS,
  type MasterCodec,
  type RatedCodec,
} from '../video/codecs.ts';
import type { Effort } from '../video/definition.ts';
import { AS_ENCODER_LIKES, type FineSettings } from '../video/fine.ts';
import { sameRational, type Rational } from '../timing/rational.ts';
import type { FrameRateChoice } from './frameRate.ts';
import type { MarkChoice } from '../picture/mark.ts';
import { pixelFormat, type Chroma, type PictureDepth, type PixelFormat } from '../picture/store.ts';

/** How the picture's bits are decided. Rates in kb/s (1,000 bits), sizes in bytes. */
export type RateChoice =
  /** `maxKbps` holds hard parts down, over a buffer; null lets them take what they need. */
  | ({ readonly mode: 'quality'; readonly value: number } & HighestRate<number | null>)
  | { readonly mode: 'average'; readonly kbps: number; readonly passes: 1 | 2 }
  | ({ readonly mode: 'variable'; readonly kbps: number; readonly passes: 1 | 2 } & HighestRate<number>)
  | { readonly mode: 'constant'; readonly kbps: number; readonly bufferKbit: number | null }
  | { readonly mode: 'size'; readonly bytes: number }
  /** Of the bytes that the portion takes in the master, as a fraction: filled like a size. */
  | { readonly mode: 'share'; readonly ofSource: number };

/** The rate that is never gone above over a buffer of so many kilobits; null takes the usual buffer. */
interface HighestRate<Rate extends number | null> {
  readonly maxKbps: Rate;
  readonly bufferKbit: number | null;
}

/** A constant quality, with nothing to hold it down. */
export function atQuality(value: number): Extract<RateChoice, { readonly mode: 'quality' }> {
  return { mode: 'quality', value, maxKbps: null, bufferKbit: null };
}

export const RATE_MODES = [
  'quality',
  'average',
  'variable',
  'constant',
  'size',
  'share',
] as const satisfies readonly RateChoice['mode'][];

/** A picture that is given a rate or a quality. */
export interface RatedVideo extends FineSettings {
  /** Whether frames may be stored in another order than shown. */
  readonly reordering: boolean;
  readonly codec: RatedCodec;
  readonly rate: RateChoice;
  readonly effort: Effort;
  /** Whether an encoder in the machine's hardware makes it, which has no efforts to choose from. */
  readonly hardware: boolean;
  readonly bitDepth: PictureDepth;
  readonly chroma: Chroma;
  /** Whether transparency is kept. */
  readonly alpha: boolean;
  readonly keyframes: KeyframeDistance;
  /** Whether there is one besides where each of the programme's portions begins. */
  readonly keyframesAtPortions: boolean;
}

/**
 * Whether encoders in hardware are asked for it: an average in one pass, which all of them hold. What they make of a quality is a scale of
 * each its own, and a size is filled from encodes that can be joined.
 */
export function holdsInHardware(rate: RateChoice): boolean {
  return rate.mode === 'average' && rate.passes === 1;
}

/** How far keyframes lie apart at most. */
export type KeyframeDistance = { readonly seconds: number } | { readonly frames: number };

/** A picture for editing or the archive, without a rate. */
export interface MasterVideo {
  readonly codec: MasterCodec;
  /** One of the codec's. */
  readonly flavour: string;
  readonly bitDepth: PictureDepth;
  readonly chroma: Chroma;
  readonly alpha: boolean;
}

export type EncodedVideo = RatedVideo | MasterVideo;

export interface EncodedSound extends SoundTreatment {
  readonly codec: SoundCodec;
  /** null for sound that is kept whole. */
  readonly kbps: number | null;
  readonly channels: Channels;
  readonly sampleRate: number;
  /** null for sound that is given a rate. */
  readonly bitDepth: SoundDepth | null;
  /** How loud it is to be; null leaves it as loud as it is, turned up or down where that is asked. */
  readonly loudness: SoundLevel | null;
  /** Which of the master's tracks, counted from 0. */
  readonly tracks: readonly number[];
  /** Whether they are mixed into one; otherwise each is a track of its own. */
  readonly mixed: boolean;
  /** Whether they, of one channel each, are the channels of one sound. */
  readonly joined: boolean;
}

/** Whether the tracks that are taken become one. */
export function isOneSound({ mixed, joined }: EncodedSound): boolean {
  return mixed || joined;
}

/** The master's own sound, untouched. */
export interface CopiedSound {
  readonly codec: 'copy';
  /** Which of the master's tracks, counted from 0, each a track of its own. */
  readonly tracks: readonly number[];
}

/** Whether a sound takes exactly some tracks. */
export function takesTracks({ tracks }: EncodedSound | CopiedSound, wanted: readonly number[]): boolean {
  return tracks.join(' ') === wanted.join(' ');
}

/** The master's own picture, untouched. */
export interface CopiedPicture {
  readonly codec: 'copy';
}

/** Whether a stream is the master's own. */
export function isCopied<Stream extends { readonly codec: string }>(
  stream: Stream | null,
): stream is Extract<Stream, { readonly codec: 'copy' }> {
  return stream?.codec === 'copy';
}

/** The master's first sound, untouched. */
export const COPIED_SOUND: CopiedSound = { codec: 'copy', tracks: [0] };

/** What a recipe says about encoding the picture; null where it is copied or left out. */
export function encodedVideo({ video }: Pick<Recipe, 'video'>): EncodedVideo | null {
  return video === null || isCopied(video) ? null : video;
}

/** What a recipe says about encoding the picture at a rate; null where it has none. */
export function ratedVideo(recipe: Recipe): RatedVideo | null {
  const video = encodedVideo(recipe);
  return video && isRatedVideo(video) ? video : null;
}

/** A picture at a rate, with everything else as its encoder likes it. */
export function plainVideo(codec: RatedCodec, rate: RateChoice, effort: Effort = 'balanced'): RatedVideo {
  return { ...STARTING_RECIPE.video, codec, rate, effort };
}

/** Whether a picture is given a rate. */
export function isRatedVideo(video: EncodedVideo): video is RatedVideo {
  return isRated(video.codec);
}

/** How a picture's pixels are to be stored. */
export function formatOf(video: EncodedVideo): PixelFormat {
  return pixelFormat(video.chroma, video.bitDepth, video.alpha);
}

/** Whether a recipe meets a size, in bytes or as a share of the source. */
export function fillsSize(recipe: Recipe): boolean {
  const mode = ratedVideo(recipe)?.rate.mode;
  return mode === 'size' || mode === 'share';
}

/** What a recipe says about encoding the sound; null where it is copied or left out. */
export function encodedSound({ audio }: Recipe): EncodedSound | null {
  return audio === null || isCopied(audio) ? null : audio;
}

/** Encoding settings that can be applied to any programme: `linstock.recipe/1`, with every default filled in. */
export interface Recipe {
  readonly format: 'linstock.recipe/1';
  readonly name: string;
  readonly container: Container;
  readonly video: EncodedVideo | CopiedPicture | null;
  readonly picture: Preparation & Framing & { readonly pixelAspect: PixelAspect; readonly mark: MarkChoice | null };
  readonly time: { readonly frameRate: FrameRateChoice };
  readonly audio: EncodedSound | CopiedSound | null;
  readonly file: {
    /** Whether the master’s chapters go along. */
    readonly chapters: boolean;
    readonly captions: CaptionChoice;
    /** Which of the programme’s are drawn in, counted from 0: those inside the master, then those beside it. */
    readonly captionTrack: number;
    readonly metadata: MetadataChoice;
    /** As `faultInTemplate` takes it; null names it after programme, portion, frame size and codec. */
    readonly name: string | null;
  };
}

/** Captions that are text: left out, handed over beside the file, inside it, or one of them drawn into the picture. */
export const CAPTION_CHOICES = ['none', 'beside', 'embed', 'burn'] as const;
export type CaptionChoice = (typeof CAPTION_CHOICES)[number];

/** What a result tells of itself: nothing, what the master tells, or what was typed. */
export type MetadataChoice = 'strip' | 'keep' | Tags;

/** A picture as it is, in square pixels. */
export const OWN_PICTURE: Recipe['picture'] = { ...AS_IT_IS, fit: null, fill: null, pixelAspect: 'square', mark: null };

/** The first of each list is what everything plays. */
const [STARTING_CONTAINER, STARTING_PICTURE, STARTING_SOUND] = [CONTAINERS[0], RATED_CODECS[0]!, SOUND_CODECS[0]!];

/** What a programme starts with: 720 lines at constant quality, and stereo. */
export const STARTING_RECIPE: Recipe & {
  readonly video: RatedVideo;
  readonly audio: EncodedSound & { readonly kbps: number };
} = {
  format: 'linstock.recipe/1',
  name: 'Web 720',
  container: STARTING_CONTAINER,
  video: {
    codec: STARTING_PICTURE,
    rate: atQuality(RATED[STARTING_PICTURE].quality.usual),
    effort: 'balanced',
    hardware: false,
    bitDepth: 8,
    chroma: '4:2:0',
    alpha: false,
    keyframes: { seconds: KEYFRAME_SECONDS },
    keyframesAtPortions: false,
    reordering: true,
    ...AS_ENCODER_LIKES,
  },
  picture: { ...OWN_PICTURE, fit: { width: 1280, height: 720 } },
  time: { frameRate: 'source' },
  audio: {
    codec: STARTING_SOUND,
    kbps: 128,
    channels: 'stereo',
    sampleRate: 48000,
    bitDepth: null,
    loudness: null,
    tracks: [0],
    mixed: false,
    joined: false,
    ...UNTREATED,
  },
  file: { chapters: true, captions: 'beside', captionTrack: 0, metadata: 'strip', name: null },
};

/**
 * How a picture's fields are to be taken apart: one that is known to be progressive is not deinterlaced, whatever its
 * tag says.
 *
 * @param scan - As the analysis found it; null goes by the tag alone.
 * @returns null for a picture that is left as it is.
 */
export function fieldsOf({ video }: ProgrammeFacts, scan: Findings['scan']): Preparation['deinterlace'] {
  if (!video) return null;
  if (scan === 'progressive' || (scan === null && !video.interlaced)) return null;
  return scan === null || scan === 'mixed' ? (video.fieldOrder ?? 'top-first') : scan;
}

/**
 * The frame size a recipe gives a programme.
 *
 * @returns null for a programme without a picture.
 */
export function renditionSize(facts: ProgrammeFacts, recipe: Pick<Recipe, 'picture' | 'video'>): FrameSize | null {
  if (!facts.video) return null;
  const { picture } = recipe;
  const stretch = stretchOf(facts.video, picture);
  const isOwn = !picture.fit && !frameOf(picture) && sameRational(stretch, SQUARE);
  // What loses nothing loses no row either, where others need an even number of them.
  if (isOwn && losslessVideo(recipe) !== null) return leftOf(facts, picture);
  return framedSize(facts, stretch, picture);
}

/** What a recipe does to a programme's frames besides scaling them: what stands out of a frame that is filled is cut off too. */
export function preparationOf(facts: FrameSize, video: VideoFacts, picture: Recipe['picture']): Preparation {
  return { ...picture, crop: cutToFill(facts, stretchOf(video, picture), picture) };
}

/** What a recipe says about a picture that is to lose nothing; null for any other. */
export function losslessVideo(recipe: Pick<Recipe, 'video'>): MasterVideo | null {
  const video = encodedVideo(recipe);
  return video && !isRatedVideo(video) && MASTERS[video.codec].isLossless ? video : null;
}

/** How much wider a programme's pixels are made so that a recipe's are what they are to be: square where they keep their shape. */
function stretchOf({ pixelAspect }: VideoFacts, picture: Pick<Recipe['picture'], 'pixelAspect'>): Rational {
  return picture.pixelAspect === 'source' ? SQUARE : pixelAspect;
}

/** The shape of a rendition's pixels. */
export function keptPixelAspect(
  { pixelAspect }: VideoFacts,
  picture: Pick<Recipe['picture'], 'pixelAspect' | 'rotate'>,
): Rational {
  return picture.pixelAspect === 'source' ? turnedAspect(pixelAspect, picture.rotate) : SQUARE;
}

/**
 * The recipe turned into one that copies a programme's picture, as it is.
 *
 * @param container - One that takes it.
 */
export function copyingPicture(recipe: Recipe, container: Container): Recipe {
  return {
    ...recipe,
    container,
    video: { codec: 'copy' },
    picture: OWN_PICTURE,
    time: { frameRate: 'source' },
  };
}

/**
 * The recipe turned into one that copies a programme's own streams, whole and as they are.
 *
 * @param container - One that takes them.
 */
export function copyingRecipe(facts: ProgrammeFacts, recipe: Recipe, container: Container): Recipe {
  const audio = facts.audio.length > 0 ? { ...COPIED_SOUND, tracks: facts.audio.map((_, index) => index) } : null;
  return { ...copyingPicture(recipe, container), audio };
}
