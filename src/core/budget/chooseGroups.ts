/** One way a group of pictures was encoded. */
export interface GroupVersion<Source> {
  readonly source: Source;
  readonly bytes: number;
  /** How much of the picture is lost by it, on any one scale for all groups. */
  readonly loss: number;
}

/** Where each group of pictures is taken from, and what they come to. */
export interface GroupChoice<Source> {
  readonly sources: readonly Source[];
  readonly bytes: number;
}

/** So many sums are kept while searching, evenly over the room: a programme of hours is filled to a thousandth. */
const KEPT_SUMS = 1200;

/** A room filled to this share is full; which of the choices loses least then counts for more. */
const FULL_SHARE = 0.998;

interface Partial<Source> {
  readonly bytes: number;
  readonly loss: number;
  /** The last group's version, and the sum of those before it; null before the first. */
  readonly last: { readonly source: Source; readonly before: Partial<Source> } | null;
}

/**
 * Fills a room from several versions of one picture: each group of pictures, from a keyframe to the next, is taken from
 * one of them, so that the whole comes near to the room, never above, and loses least.
 *
 * @param groups - The versions of each group, in the order they are shown.
 * @param room - Bytes the picture may take.
 * @returns The least loss among choices that fill the room, otherwise the fullest; null when even the smallest of every
 *   group is too much, or there is nothing to choose from.
 */
export function chooseGroups<Source>(
  groups: readonly (readonly GroupVersion<Source>[])[],
  room: number,
): GroupChoice<Source> | null {
  if (groups.length === 0) return null;
  // What the groups still to come take at least, so that no sum is kept that cannot end below the room.
  const restFrom = restOf(groups.map((versions) => Math.min(...versions.map(({ bytes }) => bytes))));
  let sums: Partial<Source>[] = [{ bytes: 0, loss: 0, last: null }];
  groups.forEach((versions, group) => {
    const most = room - (restFrom[group + 1] ?? 0);
    const next = new Map<number, Partial<Source>>();
    for (const before of sums) {
      for (const version of versions) {
        const bytes = before.bytes + version.bytes;
        if (bytes > most) continue;
        const loss = before.loss + version.loss;
        const kept = next.get(bytes);
        if (!kept || loss < kept.loss) next.set(bytes, { bytes, loss, last: { source: version.source, before } });
      }
    }
    sums = thinOut([...next.values()], room);
  });
  const full = sums.filter((sum) => sum.bytes >= room * FULL_SHARE).toSorted((a, b) => a.loss - b.loss)[0];
  const best = full ?? sums.toSorted((a, b) => b.bytes - a.bytes)[0];
  return best ? { sources: sourcesOf(best), bytes: best.bytes } : null;
}

/** Of nearly the same bytes the one that loses least goes on. */
function thinOut<Source>(sums: Partial<Source>[], room: number): Partial<Source>[] {
  if (sums.length <= KEPT_SUMS) return sums;
  const bins = new Map<number, Partial<Source>>();
  for (const sum of sums) {
    const bin = Math.floor((sum.bytes / room) * KEPT_SUMS);
    const kept = bins.get(bin);
    if (!kept || sum.loss < kept.loss) bins.set(bin, sum);
  }
  return [...bins.values()];
}

/** For each group the sum from it to the end; one more than there are groups, the last 0. */
function restOf(sizes: readonly number[]): number[] {
  const rest = [0];
  for (const size of sizes.toReversed()) rest.push(rest.at(-1)! + size);
  return rest.reverse();
}

function sourcesOf<Source>(best: Partial<Source>): Source[] {
  const sources: Source[] = [];
  for (let { last } = best; last; last = last.before.last) sources.push(last.source);
  return sources.reverse();
}
