import type { Edges } from '../geometry/preparation.ts';

/** Length of a step along a programme: what a source or an encode spends is added up over each. */
export const STEP_SECONDS = 0.5;

/** Sound is measured this often: a tenth of a second, as momentary loudness asks for (ITU-R BS.1770: 400 ms, 75 % overlap). */
export const SOUND_STEP_SECONDS = 0.1;

/** How often each kind of frame was seen where the fields were looked at closely. */
export interface FieldTally {
  readonly progressive: number;
  readonly topFirst: number;
  readonly bottomFirst: number;
  readonly undetermined: number;
}

/** Measured of the picture over one stretch of frames. */
export interface MeasuredPicture {
  /** For every frame: share of the picture that is black, in per cent. */
  readonly black: readonly number[];
  /** For every frame: mean difference of luma from the frame before, in 8-bit steps. */
  readonly difference: readonly number[];
  /** For every frame: how much more it differs than its neighbours do, from 0 to 100. */
  readonly change: readonly number[];
  /** For every frame: bits of a fast encode at fixed quality, with a keyframe every second. */
  readonly bits: readonly number[];
  readonly fields: FieldTally;
  /** Of frames sampled along the stretch that are not black: rows and columns below a low and a higher luma. */
  readonly bars: readonly { readonly dark: Edges; readonly dim: Edges }[];
  /** Of a picture with transparency, whether every pixel of it is opaque all the same; null of others. */
  readonly opaque: boolean | null;
  /** Frames that did not decode cleanly, from the programme's start. */
  readonly damaged: readonly number[];
}

/** Measured of the first sound track over one stretch, a value for every SOUND_STEP_SECONDS. */
export interface MeasuredSound {
  /** LUFS over the last 400 ms. */
  readonly momentary: readonly number[];
  /** LUFS over the last three seconds. */
  readonly shortTerm: readonly number[];
  /** Highest sample of each step in dBFS, a list for each channel. */
  readonly peaks: readonly (readonly number[])[];
  /** Mean power of half the sum and half the difference of the first two channels, in dBFS; empty unless there are two or more. */
  readonly sum: readonly number[];
  readonly difference: readonly number[];
  /** Highest true peak of the stretch, in dBTP. */
  readonly truePeak: number;
}

/** One stretch of a programme, measured in one go; what was measured is kept, what it means is derived. */
export interface MeasuredStretch {
  readonly inFrame: number;
  readonly picture: MeasuredPicture | null;
  readonly sound: MeasuredSound | null;
}
