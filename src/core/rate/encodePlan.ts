import type { Channels, Effort, VideoCodec } from '../codec/tables.ts';
import type { FrameSize } from '../geometry/frameSize.ts';
import type { Preparation } from '../geometry/preparation.ts';
import type { Colour } from '../programme/colour.ts';
import type { Opening } from '../programme/opening.ts';
import type { Rational } from '../timing/rational.ts';
import type { BitsPerSecond, Bytes } from '../units.ts';
import type { Estimate } from '../budget/projections.ts';

/** How the picture is read from the source: which frames, in which colour, how they are timed. */
export interface PicturePlan {
  readonly streamIndex: number;
  readonly bitDepth: number;
  readonly size: FrameSize;
  /** As stored, after cropping: the size results are compared at. */
  readonly sourceSize: FrameSize;
  readonly preparation: Preparation;
  readonly colour: Colour;
  readonly sourceRange: 'limited' | 'full';
  readonly frameRate: Rational;
  readonly frameCount: number;
  /** First frame taken from the source. */
  readonly inFrame: number;
  /** Frames are stamped afresh at the exact rate; a variable rate keeps its own stamps. */
  readonly constantRate: boolean;
  /** When the last frame begins and ends, in seconds from the first. */
  readonly lastFrame: { readonly atSeconds: number; readonly endSeconds: number };
  /** Where the file is opened and how much of it is read; null reads from the beginning and counts frames. */
  readonly opening: (Opening & { readonly seconds: number }) | null;
}

export interface VideoEncodePlan {
  readonly codec: VideoCodec;
  readonly effort: Effort;
  /** Frames between keyframes at most. */
  readonly keyframeInterval: number;
  readonly rate:
    | { readonly kind: 'quality'; readonly value: number }
    | { readonly kind: 'average'; readonly rate: BitsPerSecond; readonly passes: 1 | 2 }
    /** The master's own stream, untouched. */
    | { readonly kind: 'copied' }
    /** Two passes; the second is corrected until the file fills the cap. `rate` is where it starts. */
    | { readonly kind: 'fill'; readonly cap: Bytes; readonly rate: BitsPerSecond };
}

export interface SoundPlan {
  readonly streamIndex: number;
  readonly codec: 'aac';
  readonly rate: BitsPerSecond;
  /** null leaves the channels as they are, in a copied stream. */
  readonly channels: Channels | null;
  readonly sampleRate: number;
  /** Where the sound begins and how long it is, counted from the file's earliest stream; exact to the sample. */
  readonly startSeconds: number;
  readonly samples: number;
}

export interface Advisory {
  readonly code: string;
  readonly severity: 'note' | 'caution';
  readonly message: string;
  readonly field?: string;
}

/** Everything needed to encode a rendition and to judge the result. */
export interface EncodePlan {
  readonly picture: PicturePlan | null;
  readonly video: VideoEncodePlan | null;
  readonly sound: SoundPlan | null;
  readonly durationSeconds: number;
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
  readonly binds: 'source' | 'cap' | 'rate' | 'quality' | 'finest-quality' | 'sound';
}
