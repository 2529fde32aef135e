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

/** What is done to a master's frames besides scaling them: fields become whole frames, edges are cut off, high light is brought down. */
export interface Preparation {
  /** One frame comes of each two fields, so the frame count stays; null leaves the frames as they are. */
  readonly deinterlace: FieldOrder | null;
  readonly crop: Edges | null;
  /** `standard` changes nothing in a master that is no brighter. */
  readonly dynamicRange: DynamicRange;
}

/** Nothing is done. */
export const AS_IT_IS: Preparation = { deinterlace: null, crop: null, dynamicRange: 'source' };

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
export function namePreparation({ crop, deinterlace, dynamicRange }: Preparation): string {
  const parts = [
    crop ? `crop ${crop.top} ${crop.bottom} ${crop.left} ${crop.right}` : '',
    deinterlace ?? '',
    dynamicRange === 'standard' ? 'standard range' : '',
  ];
  return parts.filter(Boolean).join(', ');
}
