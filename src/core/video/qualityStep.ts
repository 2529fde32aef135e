import type { QualityScale } from './definition.ts';

/** The nearest constant quality that an encoder is asked for, written as people write it. */
export function toStep({ step }: QualityScale, quality: number): number {
  // Divided by a whole number, so that hundredths come out as such.
  const perStep = Math.round(1 / step);
  return Math.round(quality * perStep) / perStep;
}
