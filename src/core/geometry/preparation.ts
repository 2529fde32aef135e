import { nameAdjustment, type Adjustment } from '../picture/adjust.ts';
import type { FrameSize } from './frameSize.ts';

/** Rows and columns along the four sides of an upright picture, in its own pixels. */
export interface Edges {
  readonly top: number;
  readonly bottom: number;
  readonly left: number;
  readonly right: number;
}

/** Which of an interlaced frame's two fields was shot first. */
export const FIELD_ORDERS = ['top-first', 'bottom-first'] as const;
export type FieldOrder = (typeof FIELD_ORDERS)[number];

/** Light as the master has it, or brought down to what ordinary screens show. */
export const DYNAMIC_RANGES = ['source', 'standard'] as const;
export type DynamicRange = (typeof DYNAMIC_RANGES)[number];

/** By how many degrees a picture is turned, clockwise. */
export const TURNS = [0, 90, 180, 270] as const;
export type Turn = (typeof TURNS)[number];

/** Left and right are exchanged, or top and bottom. */
export const FLIPS = ['horizontal', 'vertical'] as const;
export type Flip = (typeof FLIPS)[number];

/** The frame that a picture stands in whole. */
export interface Padding extends FrameSize {
  /** What is beside it: a colour as `#rrggbb`, or `blur` for the picture itself, large and out of focus. */
  readonly with: string;
}

/** The padding that is no colour. */
export const BLUR = 'blur' as const;

/** What is done to a master's frames besides scaling them: fields become whole frames, edges are cut off, the picture is turned, mirrored and padded, high light is brought down, noise is taken out, light and colour are adjusted. */
export interface Preparation {
  /** One frame comes of each two fields, so the frame count stays; null leaves the frames as they are. */
  readonly deinterlace: FieldOrder | null;
  readonly crop: Edges | null;
  /** After cropping. */
  readonly rotate: Turn;
  /** After turning. */
  readonly flip: Flip | null;
  readonly pad: Padding | null;
  /** How much noise is taken out, from 0 to 1. */
  readonly denoise: number;
  /** null leaves light and colour as they are. */
  readonly adjust: Adjustment | null;
  /** `standard` changes nothing in a master that is no brighter. */
  readonly dynamicRange: DynamicRange;
}

/** Nothing is done. */
export const AS_IT_IS: Preparation = {
  deinterlace: null,
  crop: null,
  rotate: 0,
  flip: null,
  pad: null,
  denoise: 0,
  adjust: null,
  dynamicRange: 'source',
};

/** A size once it is turned. */
export function turnedSize({ width, height }: FrameSize, rotate: Turn): FrameSize {
  return rotate % 180 === 0 ? { width, height } : { width: height, height: width };
}

/**
 * The stored size that is left after cropping.
 *
 * @returns Zero or less on a side where nothing is left.
 */
export function croppedSize(stored: FrameSize, crop: Edges | null): FrameSize {
  if (!crop) return { width: stored.width, height: stored.height };
  return { width: stored.width - crop.left - crop.right, height: stored.height - crop.top - crop.bottom };
}

/** A preparation as one short text, the same for the same: `crop 138 138 0 0, top-first`; empty for none. */
export function namePreparation(preparation: Preparation): string {
  const { crop, deinterlace, rotate, flip, pad, dynamicRange } = preparation;
  const parts = [
    crop ? `crop ${crop.top} ${crop.bottom} ${crop.left} ${crop.right}` : '',
    deinterlace ?? '',
    nameTurn(rotate, flip),
    pad ? namePadding(pad) : '',
    dynamicRange === 'standard' ? 'standard range' : '',
    nameCorrection(preparation),
  ];
  return parts.filter(Boolean).join(', ');
}

/** What is done to a picture's noise, light and colour, in words; empty where nothing is. */
export function nameCorrection({ denoise, adjust }: Pick<Preparation, 'denoise' | 'adjust'>): string {
  const cleaned = denoise > 0 ? `${Number((denoise * 100).toFixed(1))} % of noise reduction` : '';
  return [cleaned, adjust ? nameAdjustment(adjust) : ''].filter(Boolean).join(', ');
}

/** How a picture is turned and mirrored, in words; empty where it is not. */
export function nameTurn(rotate: Turn, flip: Flip | null): string {
  const parts = [
    rotate ? `turned by ${rotate}°` : '',
    flip ? `mirrored ${flip === 'horizontal' ? 'left to right' : 'top to bottom'}` : '',
  ];
  return parts.filter(Boolean).join(', ');
}

/** What a picture is padded with, in words. */
export function namePadding({ with: beside }: Padding): string {
  if (beside === BLUR) return 'padded with itself out of focus';
  const colour = beside.toLowerCase();
  return `padded with ${colour === '#000000' ? 'black' : colour === '#ffffff' ? 'white' : colour}`;
}
