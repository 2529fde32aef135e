import type { Bytes } from '../units.ts';

/** One finished second pass, weighed. */
export interface WeighedPass {
  /** What the encoder was asked for, as a position on its dial. */
  readonly asked: number;
  /** The whole file. */
  readonly fileBytes: Bytes;
  /** The picture's packets alone. */
  readonly videoBytes: Bytes;
  /** The mean quantiser the encoder reports, or the constant quality it was asked for; null when nothing is known. */
  readonly meanQuantiser: number | null;
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
}

/** Filled from this share of the cap upward. */
export const FILLED_SHARE = 0.99;

/** What a filled file comes to as a rule, as a share of the cap: the middle of what counts as filled. */
export const USUAL_SHARE = 0.995;

/** The pass whose file is nearest to the cap, on either side; undefined when there is none. */
export function nearestTo(cap: number, passes: readonly WeighedPass[]): WeighedPass | undefined {
  return passes.toSorted((a, b) => Math.abs(a.fileBytes - cap) - Math.abs(b.fileBytes - cap))[0];
}
