import type { Rational } from '../timing/rational.ts';
import type { Sampling } from './scale.ts';
import type { StepDefinition } from './step.ts';
import type { PixelFormat } from './store.ts';

/** Captions are drawn into the picture. */
export interface DrawnCaptions {
  readonly step: 'captions';
  /** Which of the programme's captions they are, from 0. */
  readonly number: number;
  /** When the first of the frames is shown, counted from the first of the result. */
  readonly at: CaptionTime;
  /** Of the picture, as it is shown: width over height. */
  readonly shape: number;
  /** What the numbers of pixels mean before it; afterwards they are in limited range. */
  readonly from: Sampling;
  /** How its pixels are stored meanwhile. */
  readonly format: PixelFormat;
}

/** As the number of a frame at a rate, or in seconds where frames keep times of their own. */
export type CaptionTime = { readonly rate: Rational; readonly frame: number } | { readonly seconds: number };

/** They are wanted, and would otherwise be the worst of every result. */
export const captions: StepDefinition = { isInReference: true };
