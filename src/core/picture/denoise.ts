import type { StepDefinition } from './step.ts';
import type { PixelFormat } from './store.ts';

/** Noise and grain are taken out: each pixel is drawn towards those around it, and towards what it was in the frames before. */
export interface Denoise {
  readonly step: 'denoise';
  /** From 0, nothing, to 1. */
  readonly strength: number;
  /** How its pixels are stored meanwhile: finer than in 8 bits, so that what was dithered by grain shows no steps. */
  readonly format: PixelFormat;
}

/**
 * What was taken out is missing from the result. After so many frames it no longer shows where it began (measured at full strength: within a
 * quarter of a step of 8 bits in the mean).
 */
export const denoise: StepDefinition = { isInReference: false, leadFrames: 12 };
