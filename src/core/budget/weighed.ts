import type { Bytes } from '../units.ts';

/** One finished encode of the whole, weighed. */
export interface WeighedPass {
  /** The constant quality it was asked for. */
  readonly quality: number;
  /** The whole file. */
  readonly fileBytes: Bytes;
  /** The picture's packets alone. */
  readonly videoBytes: Bytes;
  /** Bytes of the picture from each keyframe to the next; empty where passes cannot be joined. */
  readonly groups: readonly number[];
}

/** One group of pictures that was encoded again by itself, weighed. */
export interface WeighedRetouch {
  readonly group: number;
  /** The constant quality it was asked at. */
  readonly quality: number;
  /** null where it cannot stand in a file with the passes, as its settings came out otherwise. */
  readonly bytes: Bytes | null;
  /** What it loses, as measured, on the scale of the losses of all groups; null where it was not. */
  readonly loss: number | null;
}

/** Filled from this share of the cap upward. */
export const FILLED_SHARE = 0.995;

/** What a filled file comes to as a rule, as a share of the cap: the middle of what counts as filled. */
export const USUAL_SHARE = 0.9975;

/** The pass whose file is nearest to the cap, on either side; undefined when there is none. */
export function nearestTo(cap: number, passes: readonly WeighedPass[]): WeighedPass | undefined {
  return passes.toSorted((a, b) => distance(cap, a) - distance(cap, b))[0];
}

function distance(cap: number, { fileBytes }: WeighedPass): number {
  return Math.abs(Math.log(fileBytes / cap));
}
