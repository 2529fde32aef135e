import type { FrameSize } from '../geometry/frameSize.ts';
import type { Sampling } from './scale.ts';
import type { StepDefinition } from './step.ts';
import type { PixelFormat } from './store.ts';

/** Where a mark stands in the picture: row by row. */
export const MARK_PLACES = [
  ...(['top-left', 'top', 'top-right', 'left', 'middle', 'right'] as const),
  ...(['bottom-left', 'bottom', 'bottom-right'] as const),
] as const;
export type MarkPlace = (typeof MARK_PLACES)[number];

/** What stands in every frame: whose it is, or that it is not the last version. */
export interface MarkChoice {
  /** One line; null where it is a picture. */
  readonly text: string | null;
  /** A picture, by its absolute path; null where it is text. */
  readonly file: string | null;
  readonly place: MarkPlace;
  /** Of its letters, or of its picture: height, of the picture's. */
  readonly size: number;
  /** From 0, not seen, to 1. */
  readonly opacity: number;
}

export const LONGEST_MARK = 80;
/** What a mark may take of the picture's height. */
export const MARK_SIZES = [0.01, 1] as const;
export const USUAL_MARK: Pick<MarkChoice, 'place' | 'size' | 'opacity'> = {
  place: 'bottom-right',
  size: 0.06,
  opacity: 0.8,
};

/** A mark is drawn into every frame. */
export interface Mark extends MarkChoice {
  readonly step: 'mark';
  /** Of the frames it is drawn into. */
  readonly picture: FrameSize;
  /** Of the picture, as it is shown: width over height. */
  readonly shape: number;
  /** What the numbers of pixels mean before it; afterwards they are in limited range. */
  readonly from: Sampling;
  /** How its pixels are stored meanwhile. */
  readonly format: PixelFormat;
}

/** Results are compared with the master as it is, so that where a mark stands is seen in the numbers. */
export const mark: StepDefinition = { isInReference: false };

/** So much is left free at each side: 90 % of the picture is safe for titles (SMPTE ST 2046-1). */
export const SAFE_MARGIN = 0.05;

/** Where it stands across and down, each from 0, at the beginning, to 1. */
export function shareOfPlace(place: MarkPlace): { readonly across: number; readonly down: number } {
  const index = MARK_PLACES.indexOf(place);
  return { across: (index % 3) / 2, down: Math.floor(index / 3) / 2 };
}

/** A mark in words; empty where there is none. */
export function nameMark(choice: MarkChoice | null): string {
  if (!choice) return '';
  return choice.text === null ? 'with a mark' : `marked “${choice.text}”`;
}
