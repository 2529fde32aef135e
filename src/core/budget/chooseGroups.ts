/** One way a group of pictures was encoded. */
export interface GroupVersion<Source> {
  readonly source: Source;
  readonly bytes: number;
}

/** Where each group of pictures is taken from, and what they come to. */
export interface GroupChoice<Source> {
  readonly sources: readonly Source[];
  readonly bytes: number;
}

/** Sums kept while searching: enough that a programme of hours is filled to a few bytes in ten thousand. */
const KEPT_SUMS = 300;

interface Partial<Source> {
  readonly bytes: number;
  /** The last group's version, and the sum of those before it; null before the first. */
  readonly last: { readonly source: Source; readonly before: Partial<Source> } | null;
}

/**
 * Fills a room from several versions of one picture: each group of pictures, from a keyframe to the next, is taken from
 * one of them, so that the whole comes as near to the room as they allow and never above.
 *
 * @param groups - The versions of each group, in the order they are shown.
 * @param room - Bytes the picture may take.
 * @returns null when even the smallest of every group is too much, or there is nothing to choose from.
 */
export function chooseGroups<Source>(
  groups: readonly (readonly GroupVersion<Source>[])[],
  room: number,
): GroupChoice<Source> | null {
  if (groups.length === 0) return null;
  // What the groups still to come take at least, so that no sum is kept that cannot end below the room.
  const restFrom = restOf(groups.map((versions) => Math.min(...versions.map(({ bytes }) => bytes))));
  let sums: Partial<Source>[] = [{ bytes: 0, last: null }];
  groups.forEach((versions, group) => {
    const most = room - (restFrom[group + 1] ?? 0);
    const next = new Map<number, Partial<Source>>();
    for (const before of sums) {
      for (const { source, bytes } of versions) {
        const sum = before.bytes + bytes;
        if (sum <= most && !next.has(sum)) next.set(sum, { bytes: sum, last: { source, before } });
      }
    }
    sums = thinOut([...next.values()].sort((a, b) => a.bytes - b.bytes));
  });
  const best = sums.at(-1);
  return best ? { sources: sourcesOf(best), bytes: best.bytes } : null;
}

/** For each group the sum from it to the end; one more than there are groups, the last 0. */
function restOf(sizes: readonly number[]): number[] {
  const rest = [0];
  for (const size of sizes.toReversed()) rest.unshift((rest[0] ?? 0) + size);
  return rest;
}

/** Evenly, with the least and the most of them. */
function thinOut<Sum>(sorted: readonly Sum[]): Sum[] {
  if (sorted.length <= KEPT_SUMS) return [...sorted];
  const step = (sorted.length - 1) / (KEPT_SUMS - 1);
  return Array.from({ length: KEPT_SUMS }, (_, index) => sorted[Math.round(index * step)]!);
}

function sourcesOf<Source>(best: Partial<Source>): Source[] {
  const sources: Source[] = [];
  for (let { last } = best; last; last = last.before.last) sources.unshift(last.source);
  return sources;
}
