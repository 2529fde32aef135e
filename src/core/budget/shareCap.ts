/** One of several files that share a cap. */
export interface Sharer {
  /** Its bytes beside the picture, sound and container; or all of them where it has no picture to choose for. */
  readonly besideBytes: number;
  /** Its picture's bytes at a level of quality, never fewer for a higher level; null where there is nothing to choose. */
  readonly bytesAt: ((level: number) => number) | null;
}

export type SharedCap =
  | { readonly ok: true; readonly level: number; readonly bytes: readonly number[] }
  /** Even at the lowest level they take more. */
  | { readonly ok: false; readonly least: number };

/** Halvings: a level is found to a millionth of its range. */
const HALVINGS = 20;

/**
 * Shares a cap out so that the worst of the files is as good as it can be: all at one level, the highest that fits. Whoever
 * got more bytes would take them from one that is no better.
 *
 * @param cap - Of all files together, in bytes.
 * @param range - The lowest and the highest level there is; above the highest nothing is gained.
 * @returns Whole bytes for each, in order, together never over the cap.
 */
export function shareCap(
  cap: number,
  sharers: readonly Sharer[],
  [lowest, highest]: readonly [lowest: number, highest: number],
): SharedCap {
  const bytesAt = (level: number) =>
    sharers.map(({ besideBytes, bytesAt: picture }) => Math.floor(besideBytes + (picture?.(level) ?? 0)));
  const sumAt = (level: number) => bytesAt(level).reduce((sum, bytes) => sum + bytes, 0);
  const least = sumAt(lowest);
  if (least > cap) return { ok: false, least };
  if (sumAt(highest) <= cap) return { ok: true, level: highest, bytes: bytesAt(highest) };
  let [low, high] = [lowest, highest];
  for (let halving = 0; halving < HALVINGS; halving += 1) {
    const middle = (low + high) / 2;
    if (sumAt(middle) <= cap) low = middle;
    else high = middle;
  }
  return { ok: true, level: low, bytes: bytesAt(low) };
}
