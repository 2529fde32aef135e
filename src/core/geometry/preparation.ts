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

/** What is done to a master's frames besides scaling them: fields become whole frames, edges are cut off, the picture is turned, mirrored and padded, high light is brought down. */
export interface Preparation {
  /** One frame comes of each two fields, so the frame count stays; null leaves the frames as they are. */
  readonly deinterlace: FieldOrder | null;
  readonly crop: Edges | null;
  /** After cropping. */
  readonly rotate: Turn;
  /** After turning. */
  readonly flip: Flip | null;
  readonly pad: Padding | null;
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
export function namePreparation({ crop, deinterlace, rotate, flip, pad, dynamicRange }: Preparation): string {
  const parts = [
    crop ? `crop ${crop.top} ${crop.bottom} ${crop.left} ${crop.right}` : '',
    deinterlace ?? '',
    nameTurn(rotate, flip),
    pad ? namePadding(pad) : '',
    dynamicRange === 'standard' ? 'standard range' : '',
  ];
  return parts.filter(Boolean).join(', ');
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
