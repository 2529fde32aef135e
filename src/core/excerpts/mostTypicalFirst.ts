import type { Excerpt } from './chooseExcerpts.ts';
import { shareOut, type CostedGroup } from './costedGroup.ts';

/**
 * Excerpts in the order they are tried: the one that stands for the most frames, then the others as they were chosen. What is said after
 * the first is then said of as much as one can stand for, and not of the hardest part.
 *
 * @param excerpts - At least one.
 */
export function mostTypicalFirst(groups: readonly CostedGroup[], excerpts: readonly Excerpt[]): Excerpt[] {
  const members = shareOut(
    groups,
    excerpts.map(({ group }) => group),
  );
  const standsFor = ({ group }: Excerpt) =>
    members.get(group)!.reduce((frames, member) => frames + groups[member]!.frameCount, 0);
  const typical = excerpts.reduce((a, b) => (standsFor(b) > standsFor(a) ? b : a));
  return [typical, ...excerpts.filter((one) => one !== typical)];
}
