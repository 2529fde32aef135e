/** From which pass each group of pictures is taken, and what they come to. */
export interface GroupChoice {
  /** Index of the pass, for each group. */
  readonly passes: readonly number[];
  readonly bytes: number;
}

/** Sums kept while searching: enough that a programme of hours is filled to a few bytes in ten thousand. */
const KEPT_SUMS = 300;

interface Partial {
  readonly bytes: number;
  readonly pass: number;
  readonly before: Partial | null;
}

/**
 * Fills a room from several passes over one picture: each group of pictures, from a keyframe to the next, is taken from
 * one of them, so that the whole comes as near to the room as the passes allow and never above.
 *
 * @param passes - For each pass the bytes of its groups; the same groups in every pass.
 * @param room - Bytes the picture may take.
 * @returns null when even the smallest of every group is too much, or there is nothing to choose from.
 */
export function chooseGroups(passes: readonly (readonly number[])[], room: number): GroupChoice | null {
  const count = passes[0]?.length ?? 0;
  if (count === 0 || passes.some((groups) => groups.length !== count)) return null;
  const versions = Array.from({ length: count }, (_, group) => passes.map((groups) => groups[group] ?? 0));
  // What the groups still to come take at least, so that no sum is kept that cannot end below the room.
  const restFrom = restOf(versions.map((sizes) => Math.min(...sizes)));
  let sums: Partial[] = [{ bytes: 0, pass: -1, before: null }];
  versions.forEach((sizes, group) => {
    const most = room - (restFrom[group + 1] ?? 0);
    const next = new Map<number, Partial>();
    for (const before of sums) {
      sizes.forEach((size, pass) => {
        const bytes = before.bytes + size;
        if (bytes <= most && !next.has(bytes)) next.set(bytes, { bytes, pass, before });
      });
    }
    sums = thinOut([...next.values()].sort((a, b) => a.bytes - b.bytes));
  });
  const best = sums.at(-1);
  return best ? { passes: passesOf(best), bytes: best.bytes } : null;
}

/** For each group the sum from it to the end; one more than there are groups, the last 0. */
function restOf(sizes: readonly number[]): number[] {
  const rest = [0];
  for (const size of sizes.toReversed()) rest.unshift((rest[0] ?? 0) + size);
  return rest;
}

/** Evenly, with the least and the most of them. */
function thinOut(sorted: readonly Partial[]): Partial[] {
  if (sorted.length <= KEPT_SUMS) return [...sorted];
  const step = (sorted.length - 1) / (KEPT_SUMS - 1);
  return Array.from({ length: KEPT_SUMS }, (_, index) => sorted[Math.round(index * step)]!);
}

function passesOf(best: Partial): number[] {
  const passes: number[] = [];
  for (let part: Partial | null = best; part && part.pass >= 0; part = part.before) passes.unshift(part.pass);
  return passes;
}
