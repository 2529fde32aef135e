/** Neighbouring groups of pictures, by the index of the first. */
export interface GroupRun {
  readonly first: number;
  readonly count: number;
}

/** Half as many again are weighed all: the places between would hardly be fewer. */
const NEARLY_ALL = 1.5;

/** So many of the busiest groups are weighed wherever they lie: the hardest of all must not go unseen. */
const BUSIEST = 4;

/**
 * Which groups of a picture are weighed: all in one go, or where it is long some by themselves that are spread evenly over it, since
 * neighbours tell of the same scene.
 *
 * @param groups - How many there are.
 * @param most - How many may be weighed, about.
 */
export function spreadRuns(groups: number, most: number): GroupRun[] {
  if (groups <= most * NEARLY_ALL) return [{ first: 0, count: groups }];
  return Array.from({ length: most }, (_, index) => ({ first: Math.floor(((index + 0.5) * groups) / most), count: 1 }));
}

/**
 * The busiest groups that lie in no run, each a run of its own.
 *
 * @param busyness - Of each group.
 */
export function busiestBeside(runs: readonly GroupRun[], busyness: readonly number[]): GroupRun[] {
  const isIn = (group: number) => runs.some(({ first, count }) => group >= first && group < first + count);
  const busiest = [...busyness.keys()].toSorted((a, b) => busyness[b]! - busyness[a]!).slice(0, BUSIEST);
  return busiest.filter((group) => !isIn(group)).map((first) => ({ first, count: 1 }));
}
