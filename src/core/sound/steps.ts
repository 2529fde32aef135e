import type { Layout } from './definition.ts';

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

/** One thing that is done to sound, in the order of the chain. */
export type SoundStep = Begin | Resample | Last | Mix;
