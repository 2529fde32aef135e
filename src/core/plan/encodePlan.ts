import type { Advisory } from '../advice/advisory.ts';
import type { Estimate } from '../budget/projections.ts';
import type { Labels } from '../container/labels.ts';
import type { Container } from '../container/names.ts';
import type { FrameSize } from '../geometry/frameSize.ts';
import type { PictureStep } from '../picture/chain.ts';
import type { Sampling } from '../picture/scale.ts';
import type { PixelFormat } from '../picture/store.ts';
import type { Colour } from '../programme/colour.ts';
import type { LightLevels } from '../programme/facts.ts';
import type { Opening } from '../programme/opening.ts';
import type { SoundCodec } from '../sound/codecs.ts';
import type { Layout, SoundDepth } from '../sound/definition.ts';
import type { SoundStep } from '../sound/steps.ts';
import type { Sounding } from '../sounding/sounding.ts';
import type { Rational } from '../timing/rational.ts';
import type { BitsPerSecond, Bytes } from '../units.ts';
import type { MasterCodec, RatedCodec, VideoCodec } from '../video/codecs.ts';
import type { Effort } from '../video/definition.ts';
import type { FineSettings } from '../video/fine.ts';
import type { RateBuffer } from '../rate/bufferModel.ts';

/** Which part of the programme is taken. */
export interface SourceSpan {
  /** 0 for a sound-only programme, as is `frameCount`. */
  readonly inFrame: number;
  readonly frameCount: number;
  readonly startSeconds: number;
  readonly seconds: number;
}

/** Where frames are read, and what they are there. */
export interface PictureSource {
  /** Position of the stream in the file. */
  readonly streamIndex: number;
  readonly inFrame: number;
  readonly frameCount: number;
  readonly frameRate: Rational;
  /** False where frames keep times of their own. */
  readonly constantRate: boolean;
  readonly sampling: Sampling;
  readonly bitDepth: number;
  /** The engine's name of the codec, where the source has transparency; plans of before say nothing. */
  readonly transparentBy?: string;
  /** Where the file is opened and how much of it is read; null reads from the beginning and counts frames. */
  readonly opening: (Opening & { readonly seconds: number }) | null;
}

/** What comes out: nothing here is true of the source by itself. */
export interface PictureFacts {
  readonly size: FrameSize;
  readonly frameCount: number;
  readonly frameRate: Rational;
  readonly constantRate: boolean;
  /** When the last frame begins and ends, in seconds from the first. */
  readonly lastFrame: { readonly atSeconds: number; readonly endSeconds: number };
  readonly colour: Colour;
  readonly range: 'limited' | 'full';
  readonly format: PixelFormat;
  /** Width over height of a pixel, where they are not square. */
  readonly pixelAspect?: Rational;
}

/** The way of frames from a source to a result. */
export interface PicturePath {
  readonly from: PictureSource;
  readonly chain: readonly PictureStep[];
  /** The frame size at which results are compared with their source: as stored there, after cropping and turning. */
  readonly comparedAt: FrameSize;
  readonly out: PictureFacts;
}

/** A stream of the master, untouched. */
export interface CopyStream<Codec> {
  readonly kind: 'copy';
  readonly codec: Codec;
}

/** How the picture is encoded. */
export interface EncodePicture {
  readonly kind: 'encode';
  readonly codec: RatedCodec;
  readonly effort: Effort;
  /** Set where an encoder in hardware makes it. */
  readonly hardware?: true;
  readonly fine: FineSettings;
  /** Frames between keyframes at most. */
  readonly keyframeInterval: number;
  /** How bright the picture gets, as its frames are to say; plans of those that say nothing have none. */
  readonly light?: LightLevels;
  /** Frames of the result that are keyframes besides; plans without any say nothing. */
  readonly keyframesAt?: readonly number[];
  readonly rate: PictureRate;
}

/** How a picture for editing or the archive is encoded. */
export interface EncodeMaster {
  readonly kind: 'master';
  readonly codec: MasterCodec;
  readonly flavour: string;
}

export type PictureRate =
  | { readonly kind: 'quality'; readonly value: number; readonly buffer: RateBuffer | null }
  | {
      readonly kind: 'average';
      readonly rate: BitsPerSecond;
      readonly passes: 1 | 2;
      readonly buffer: RateBuffer | null;
    }
  /** The buffer is kept full: what the picture does not need is padded. */
  | { readonly kind: 'constant'; readonly rate: BitsPerSecond; readonly buffer: RateBuffer }
  /** Encoded until the file fills the cap. */
  | {
      readonly kind: 'fill';
      readonly cap: Bytes;
      /** The picture's average that would fill it. */
      readonly rate: BitsPerSecond;
      /** The constant quality that should come to it; null where nothing was sounded. */
      readonly quality: number | null;
      /** What it was foreseen by; plans where nothing was sounded say nothing. */
      readonly foreseen?: Sounding['points'];
    };

/** How the sound is encoded. */
export interface EncodeSound {
  readonly kind: 'encode';
  readonly codec: SoundCodec;
  /** null where every sample is kept. */
  readonly rate: BitsPerSecond | null;
  /** null where a rate is kept to. */
  readonly bitDepth: SoundDepth | null;
}

/** What comes out of a sound stream. */
export interface SoundFacts {
  readonly sampleRate: number;
  readonly samples: number;
  /** null where a copied stream keeps what it has. */
  readonly channels: Layout | null;
}

export interface PictureStream extends PicturePath {
  readonly kind: 'picture';
  readonly do: CopyStream<VideoCodec> | EncodePicture | EncodeMaster;
}

export interface SoundStream {
  readonly kind: 'sound';
  /** Several are mixed into one, or joined where the chain says so. */
  readonly from: readonly { readonly streamIndex: number }[];
  readonly do: CopyStream<SoundCodec> | EncodeSound;
  readonly chain: readonly SoundStep[];
  readonly out: SoundFacts;
}

/** One stream of the result. */
export type StreamPlan = PictureStream | SoundStream;

/** A sound stream that is encoded. */
export type EncodedSoundStream = SoundStream & { readonly do: EncodeSound };

/** A picture stream that is encoded for editing or the archive. */
export type MasteredPicture = PictureStream & { readonly do: EncodeMaster };

/** A picture stream that is encoded at a rate. */
export type EncodedPicture = PictureStream & { readonly do: EncodePicture };

/** The version of plans as they are stored. */
export const PLAN_VERSION = 5;

/** Everything needed to encode a rendition and to judge the result. */
export interface EncodePlan {
  readonly version: typeof PLAN_VERSION;
  readonly span: SourceSpan;
  /** In the order they lie in the file. */
  readonly streams: readonly StreamPlan[];
  readonly container: Container;
  /** What the file tells beside them; plans of those that tell nothing, and before 0.18, have none. */
  readonly labels?: Labels;
  /** Passes foreseen: sound, then the picture's; a size target may add corrections and retouches. */
  readonly passes: readonly PassName[];
  readonly budget: PlannedBudget;
  readonly advisories: readonly Advisory[];
}

export const PASS_NAMES = ['sound', 'analysis', 'encode', 'correction', 'retouch', 'copy'] as const;
export type PassName = (typeof PASS_NAMES)[number];

/** What the file is expected to be made of; null where nothing can honestly be said. */
export interface PlannedBudget {
  readonly cap: Bytes | null;
  readonly split: { readonly video: Bytes | null; readonly audio: Bytes; readonly container: Bytes };
  readonly headroom: Bytes | null;
  readonly videoRate: BitsPerSecond | null;
  readonly expected: Estimate | null;
  /** Set where it goes by what is usual of the codec: nothing like it was measured on the programme. */
  readonly isGuess?: true;
  /**
   * What the sounding alone foresaw of the picture, of a size to fill of its first encode; missing where there was none, and
   * before 0.5, of sizes before 0.9.
   */
  readonly soundedBytes?: Bytes;
  /** What the picture takes at its codec's usual quality, as far as it was measured. */
  readonly neededRate?: BitsPerSecond;
  /** The standard error of the logarithm of the picture's bytes, where trials at these settings foresaw them. */
  readonly triedError?: number;
  readonly binds: 'source' | 'cap' | 'rate' | 'quality' | 'finest-quality' | 'sound';
}

/** The picture of a plan; null for sound only. */
export function pictureOf({ streams }: Pick<EncodePlan, 'streams'>): PictureStream | null {
  return streams.find((stream) => stream.kind === 'picture') ?? null;
}

/** The sounds of a plan, in the order they lie in the file. */
export function soundsOf({ streams }: Pick<EncodePlan, 'streams'>): readonly SoundStream[] {
  return streams.filter((stream) => stream.kind === 'sound');
}

/** Whether a sound stream is encoded. */
export function isEncodedSound(sound: SoundStream): sound is EncodedSoundStream {
  return sound.do.kind === 'encode';
}

/** Whether a picture stream is encoded for editing or the archive. */
export function isMastered(picture: PictureStream): picture is MasteredPicture {
  return picture.do.kind === 'master';
}

/** Whether a picture stream is encoded at a rate. */
export function isEncoded(picture: PictureStream): picture is EncodedPicture {
  return picture.do.kind === 'encode';
}
