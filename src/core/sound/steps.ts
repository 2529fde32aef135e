import type { Layout } from './definition.ts';
import type { Gain, SoundLevel } from './loudness.ts';

/** Sound begins at a moment of the file, counted from its earliest stream. */
export interface Begin {
  readonly step: 'begin';
  readonly startSeconds: number;
}

/** One sample rate throughout; gaps and a late start become silence instead of shifting what follows. */
export interface Resample {
  readonly step: 'resample';
  readonly sampleRate: number;
}

/** Tracks of one channel each become the channels of one sound, in their order. */
export interface Join {
  readonly step: 'join';
  readonly channels: Layout;
}

/** Exactly so many samples: silence fills what the source lacks. */
export interface Last {
  readonly step: 'last';
  readonly samples: number;
}

/** So many channels, mixed down where there are more. */
export interface Mix {
  readonly step: 'mix';
  readonly channels: Layout;
}

/** As loud as is asked, in the channels and at the sample rate that it comes out in. */
export interface Level {
  readonly step: 'level';
  readonly channels: Layout;
  readonly sampleRate: number;
  readonly target: SoundLevel;
  /** null until the sound was listened to. */
  readonly gain: Gain | null;
}

/** Louder or quieter by so much, in the channels and at the sample rate that it comes out in. */
export interface Turned {
  readonly step: 'turned';
  readonly channels: Layout;
  readonly sampleRate: number;
  readonly gain: Gain;
}

/** Louder from nothing at the beginning, and quieter to nothing at the end, evenly. */
export interface Fade {
  readonly step: 'fade';
  readonly inSamples: number;
  readonly outSamples: number;
  /** How long the sound is. */
  readonly samples: number;
}

/** One thing that is done to sound, in the order of the chain. */
export type SoundStep = Begin | Resample | Join | Level | Turned | Last | Fade | Mix;
