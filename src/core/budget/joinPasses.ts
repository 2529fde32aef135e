import type { BitsPerSecond, Bytes } from '../units.ts';
import { chooseGroups } from './chooseGroups.ts';

/** One finished second pass, weighed. */
export interface WeighedPass {
  /** What the encoder was asked for. */
  readonly asked: BitsPerSecond;
  /** The whole file. */
  readonly fileBytes: Bytes;
  /** The picture's packets alone. */
  readonly videoBytes: Bytes;
  /** The mean quantiser the encoder reports; null when it reported none. */
  readonly meanQuantiser: number | null;
  /** Bytes of the picture from each keyframe to the next; empty where passes cannot be joined. */
  readonly groups: readonly number[];
}

/** With more groups than this, any two passes on both sides of the cap can be joined to fill it. */
export const FEW_GROUPS = 16;

/** Filled from this share of the cap upward. */
export const FILLED_SHARE = 0.99;

/**
 * Passes are joined when nobody sees where: nearly of one size, or nearly of one mean quantiser, which for noise that an
 * encoder keeps or drops may go with very different sizes.
 */
const JOINABLE_SPAN = 0.1;
const JOINABLE_QUANTISERS = 1.5;

/** A joined file's tables may be this much longer than those of its passes; it is weighed again all the same. */
const JOIN_SLACK_BYTES = 256;

/**
 * The fullest file that the passes' groups of pictures make below the cap.
 *
 * @param cap - Whole file, in bytes.
 * @returns For each group the index of its pass, and what the file will weigh at most; null where they make none.
 */
export function joinPasses(
  cap: Bytes,
  passes: readonly WeighedPass[],
): { readonly passes: readonly number[]; readonly fileBytes: number } | null {
  const nearest = nearestTo(cap, passes);
  const near = passes.flatMap((pass, index) =>
    nearest && pass.groups.length > 1 && looksLike(nearest, pass) ? [{ pass, index }] : [],
  );
  if (near.length < 2) return null;
  const fixed = Math.max(...near.map(({ pass }) => pass.fileBytes - pass.videoBytes)) + JOIN_SLACK_BYTES;
  const choice = chooseGroups(
    near.map(({ pass }) => pass.groups),
    cap - fixed,
  );
  return choice && { passes: choice.passes.map((one) => near[one]!.index), fileBytes: choice.bytes + fixed };
}

function looksLike(one: WeighedPass, other: WeighedPass): boolean {
  if (Math.abs(one.videoBytes / other.videoBytes - 1) <= JOINABLE_SPAN) return true;
  if (one.meanQuantiser === null || other.meanQuantiser === null) return false;
  return Math.abs(one.meanQuantiser - other.meanQuantiser) <= JOINABLE_QUANTISERS;
}

/** The pass whose file is nearest to the cap, on either side; undefined when there is none. */
export function nearestTo(cap: Bytes, passes: readonly WeighedPass[]): WeighedPass | undefined {
  return passes.toSorted((a, b) => Math.abs(a.fileBytes - cap) - Math.abs(b.fileBytes - cap))[0];
}
