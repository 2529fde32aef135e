import type { Rational } from '../timing/rational.ts';
import type { StepDefinition } from './step.ts';

/** How often colour is stored: for two by two pixels, for two in a row, for each. */
export const CHROMAS = ['4:2:0', '4:2:2', '4:4:4'] as const;
export type Chroma = (typeof CHROMAS)[number];

/** Bits a sample that are written. */
export const PICTURE_DEPTHS = [8, 10, 12, 16] as const;
export type PictureDepth = (typeof PICTURE_DEPTHS)[number];

/** How pixels are stored: chroma, bits a sample, and `a` where transparency is kept. */
export type PixelFormat = `${'420' | '422' | '444'}p${PictureDepth}${'' | 'a'}`;

/** The format of its parts. */
export function pixelFormat(chroma: Chroma, depth: PictureDepth, alpha = false): PixelFormat {
  return `${chroma.replaceAll(':', '') as '420' | '422' | '444'}p${depth}${alpha ? 'a' : ''}`;
}

/** The parts of a format. */
export function partsOf(format: PixelFormat): {
  readonly chroma: Chroma;
  readonly depth: PictureDepth;
  readonly alpha: boolean;
} {
  const chroma = CHROMAS.find((one) => format.startsWith(one.replaceAll(':', ''))) ?? '4:2:0';
  const depth = PICTURE_DEPTHS.find((one) => format.includes(`p${one}`)) ?? 8;
  return { chroma, depth, alpha: format.endsWith('a') };
}

/** How pixels are stored while they are worked on: as they come out, in 10 bits at least. */
export function workingFormat(format: PixelFormat): PixelFormat {
  const { chroma, depth, alpha } = partsOf(format);
  return pixelFormat(chroma, depth === 8 ? 10 : depth, alpha);
}

/** Samples stored for each pixel: its light, its colour as often as it is stored, and its transparency. */
export function samplesOf(format: PixelFormat): number {
  const { chroma, alpha } = partsOf(format);
  return { '4:2:0': 1.5, '4:2:2': 2, '4:4:4': 3 }[chroma] + (alpha ? 1 : 0);
}

/** A format in words: `8 bits, 4:2:0`. */
export function nameFormat(format: PixelFormat): string {
  const { chroma, depth, alpha } = partsOf(format);
  return `${depth} bits, ${chroma}${alpha ? ' with transparency' : ''}`;
}

/** Pixels are stored in a format. */
export interface Store {
  readonly step: 'store';
  readonly format: PixelFormat;
  /** Width over height of one, where they are not square. */
  readonly pixelAspect?: Rational;
}

export const store: StepDefinition = { isInReference: false };
