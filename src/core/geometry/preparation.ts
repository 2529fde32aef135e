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

/** What is done to a master's frames before they are scaled: fields become whole frames, then edges are cut off. */
export interface Preparation {
  /** One frame comes of each two fields, so the frame count stays; null leaves the frames as they are. */
  readonly deinterlace: FieldOrder | null;
  readonly crop: Edges | null;
}

/** Nothing is done. */
export const AS_IT_IS: Preparation = { deinterlace: null, crop: null };

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
export function namePreparation({ crop, deinterlace }: Preparation): string {
  const parts = [crop ? `crop ${crop.top} ${crop.bottom} ${crop.left} ${crop.right}` : '', deinterlace ?? ''];
  return parts.filter(Boolean).join(', ');
}
