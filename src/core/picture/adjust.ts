import { writeSigned } from '../text.ts';
import type { Sampling } from './scale.ts';
import type { StepDefinition } from './step.ts';
import type { PixelFormat } from './store.ts';

/** Light and colour as someone wants them. */
export interface Adjustment {
  /** Added to each pixel's light, of the whole way from black to white. */
  readonly brightness: number;
  /** How far apart light and dark lie, around the middle; 1 leaves them. */
  readonly contrast: number;
  /** How strong colours are; 1 leaves them, 0 is grey. */
  readonly saturation: number;
  /** How light the tones between black and white are; 1 leaves them, more is lighter. */
  readonly gamma: number;
}

/** Light and colour as they are. */
export const UNADJUSTED: Adjustment = { brightness: 0, contrast: 1, saturation: 1, gamma: 1 };

/** What recipes may ask for. */
export const ADJUST_RANGE: Readonly<Record<keyof Adjustment, readonly [least: number, most: number]>> = {
  brightness: [-1, 1],
  contrast: [0, 4],
  saturation: [0, 4],
  gamma: [0.1, 10],
};

/** The numbers of pixels are bent: luma by brightness, contrast and gamma, the two of colour by saturation. */
export interface Adjust extends Adjustment {
  readonly step: 'adjust';
  /** What the numbers mean before it; afterwards they are in limited range. */
  readonly from: Sampling;
  /** How its pixels are stored meanwhile. */
  readonly format: PixelFormat;
}

/** It is a choice, not a loss. */
export const adjust: StepDefinition = { isInReference: true };

/** Whether anything is changed. */
export function adjusts(one: Adjustment): boolean {
  return (Object.keys(UNADJUSTED) as (keyof Adjustment)[]).some((key) => one[key] !== UNADJUSTED[key]);
}

/**
 * The luma that a luma becomes, both from 0, black, to 1, white.
 *
 * @param luma - Of the signal, not of the light.
 */
export function adjustLuma(luma: number, { brightness, contrast, gamma }: Adjustment): number {
  const held = (value: number) => Math.min(1, Math.max(0, value));
  return held(contrast * (held(luma) ** (1 / gamma) - 0.5) + 0.5 + brightness);
}

/** What is changed, in words; empty where nothing is. */
export function nameAdjustment(one: Adjustment): string {
  const parts = [
    one.brightness === 0 ? '' : `brightness ${writeSigned(one.brightness)}`,
    ...(['contrast', 'saturation', 'gamma'] as const).map((key) => (one[key] === 1 ? '' : `${key} × ${one[key]}`)),
  ];
  return parts.filter(Boolean).join(', ');
}
