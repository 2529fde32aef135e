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
  readonly pixelFormat: string;
  readonly bitDepth: number;
  readonly pixelAspect: Rational;
  readonly colour: ColourTags;
  readonly interlaced: boolean;
  /** Clockwise, in degrees; the engine turns the picture upright when it decodes. */
  readonly rotation: number;
  /** When the first frame is due, counted from the file's earliest stream. */
  readonly startSeconds: number;
  /** True when every frame lies within half a frame of a constant rate; measured from the timestamps. */
  readonly constantRate: boolean;
  /** A time names each frame and an index leads to it; otherwise frames are counted from the start. */
  readonly seeksExactly: boolean;
  /** null when the picture's packets could not be weighed. */
  readonly bitsPerSecond: number | null;
  readonly keyframes: number;
}

export interface AudioFacts {
  /** Position of the stream in the file. */
  readonly index: number;
  readonly codec: string;
  readonly channels: number;
  readonly sampleRate: number;
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
}

/** Part of a programme in frames of the source; the out frame is included. */
export interface Portion {
  readonly inFrame: number;
  readonly outFrame: number;
}
