import type { StepDefinition } from './step.ts';

/** How pixels are stored: colour for two by two, or for each; bits a sample. */
export const PIXEL_FORMATS = ['420p8'] as const;
export type PixelFormat = (typeof PIXEL_FORMATS)[number];

/** Pixels are stored in a format, and are square. */
export interface Store {
  readonly step: 'store';
  readonly format: PixelFormat;
}

export const store: StepDefinition = { isInReference: false };
