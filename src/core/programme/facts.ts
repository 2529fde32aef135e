import type { FieldOrder } from '../geometry/preparation.ts';
import type { Rational } from '../timing/rational.ts';

/** Colour as tagged in the file; null where the file says nothing (names of ITU-T H.273). */
export interface ColourTags {
  readonly primaries: string | null;
  readonly transfer: string | null;
  readonly matrix: string | null;
  readonly range: 'limited' | 'full' | null;
}

export interface VideoFacts {
  /** Position of the stream in the file. */
  readonly index: number;
  readonly codec: string;
  readonly profile: string | null;
  /** As people write it: `4.1`. */
  readonly level: string | null;
  readonly pixelFormat: string;
  readonly bitDepth: number;
  readonly chroma: ChromaSampling | null;
  readonly alpha: boolean;
  readonly pixelAspect: Rational;
  readonly colour: ColourTags;
  readonly interlaced: boolean;
  /** Which field comes first, as the file says; null when it says nothing or is progressive. */
  readonly fieldOrder: FieldOrder | null;
  /** Light levels that travel with a high dynamic range picture; null where the file has none. */
  readonly light: LightLevels | null;
  /** Clockwise, in degrees; the engine turns the picture upright when it decodes. */
  readonly rotation: number;
  /** When the first frame is due, counted from the file's earliest stream. */
  readonly startSeconds: number;
  /** As the header writes it, which may be a rounded fraction; null when it says nothing. */
  readonly claimedRate: Rational | null;
  /** True when every frame lies within half a frame of a constant rate; measured from the timestamps. */
  readonly constantRate: boolean;
  /** A time names each frame and leads to it; otherwise frames are counted from the start. */
  readonly seeksExactly: boolean;
  /** How long before a frame a file without an index is opened to reach it; 0 with an index. */
  readonly seekLeadSeconds: number;
  /** null when the picture's packets could not be weighed. */
  readonly bitsPerSecond: number | null;
  readonly keyframes: number;
  /** Frames from one keyframe to the next; null with fewer than two. */
  readonly keyframeDistance: { readonly least: number; readonly mean: number; readonly most: number } | null;
  /** Frames held back because they are stored in another order than shown; 0 when none is. */
  readonly reordering: number;
}

export const CHROMA_SAMPLINGS = ['4:0:0', '4:1:1', '4:2:0', '4:2:2', '4:4:0', '4:4:4'] as const;
export type ChromaSampling = (typeof CHROMA_SAMPLINGS)[number];

/** In candela per square metre (SMPTE ST 2086, CTA-861.3); null where not stated. */
export interface LightLevels {
  readonly masteringLeast: number | null;
  readonly masteringMost: number | null;
  readonly contentMost: number | null;
  readonly frameAverageMost: number | null;
  /** What the mastering display could show; facts that were read before 0.16 say nothing. */
  readonly masteringColour?: DisplayColour | null;
}

/** Where a display's colours lie: CIE 1931 x and y. */
export type DisplayColour = Readonly<Record<'red' | 'green' | 'blue' | 'white', readonly [x: number, y: number]>>;

export interface AudioFacts {
  /** Position of the stream in the file. */
  readonly index: number;
  readonly codec: string;
  readonly channels: number;
  /** As the trade says it: `stereo`, `5.1`; null when the file does not say. */
  readonly layout: string | null;
  readonly sampleRate: number;
  /** Bits a sample; null for compressed sound. */
  readonly bitDepth: number | null;
  /** Three letters of ISO 639-2; null when not tagged. */
  readonly language: string | null;
  readonly title: string | null;
  /** Counted from the file's earliest stream. */
  readonly startSeconds: number;
  readonly durationSeconds: number;
  readonly bitsPerSecond: number | null;
}

/** What was measured about a master when it was brought in. */
export interface ProgrammeFacts {
  readonly container: string;
  readonly bytes: number;
  readonly durationSeconds: number;
  /** 0 for a sound-only programme. */
  readonly frameCount: number;
  /** 0/1 for a sound-only programme. */
  readonly frameRate: Rational;
  /** Upright and in stored pixels; 0 for a sound-only programme. */
  readonly width: number;
  readonly height: number;
  readonly video: VideoFacts | null;
  readonly audio: readonly AudioFacts[];
  readonly captions: readonly CaptionFacts[];
  /** Names of caption files that lie beside the master under its name. */
  readonly sidecars: readonly string[];
  readonly chapters: readonly Chapter[];
  /** Timecode of the first frame as the file has it; null when it has none. */
  readonly startTimecode: string | null;
  /** Title, maker, dates and whatever else is written in the file, by name. */
  readonly metadata: Readonly<Record<string, string>>;
}

export interface CaptionFacts {
  readonly index: number;
  readonly codec: string;
  readonly language: string | null;
}

/** A named stretch of a programme, in seconds from its start. */
export interface Chapter {
  readonly startSeconds: number;
  readonly endSeconds: number;
  readonly title: string;
}

/** Part of a programme in frames of the source; the out frame is included. */
export interface Portion {
  readonly inFrame: number;
  readonly outFrame: number;
}

/** Whether a portion is all of a programme. */
export function isWhole({ inFrame, outFrame }: Portion, { frameCount }: Pick<ProgrammeFacts, 'frameCount'>): boolean {
  return outFrame - inFrame + 1 >= frameCount;
}

/** Whether two portions take the same frames, whatever they are called; null is the whole. */
export function isSamePortion(a: Portion | null, b: Portion | null): boolean {
  return a?.inFrame === b?.inFrame && a?.outFrame === b?.outFrame;
}
