/**
 * Which words of a sentence were not in the one before: all between what both begin with and what both end with.
 *
 * @returns Places among the words of the later one, from 0.
 */
export function changedWords(before: string, after: string): Set<number> {
  const [old, now] = [before, after].map((text) => text.split(' ')) as [string[], string[]];
  let first = 0;
  while (first < Math.min(old.length, now.length) && old[first] === now[first]) first += 1;
  let last = 0;
  while (last < Math.min(old.length, now.length) - first && old.at(-1 - last) === now.at(-1 - last)) last += 1;
  return new Set(Array.from({ length: now.length - last - first }, (_, index) => first + index));
}
