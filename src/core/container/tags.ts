import { tidyLine } from '../text.ts';

/** What a file tells of itself as a whole, by the words of the trade; every container that tells one of them has a place of its own for it. */
export const TAGS = ['title', 'artist', 'album', 'genre', 'date', 'copyright', 'description', 'comment'] as const;
export type Tag = (typeof TAGS)[number];
export type Tags = Readonly<Partial<Record<Tag, string>>>;

/** As much of a text as facts keep of it. */
export const LONGEST_TAG = 500;

/** Other words for the same, as files have them. */
const SAME: Readonly<Partial<Record<Tag, readonly string[]>>> = { artist: ['author'], date: ['year'] };

/**
 * What a master tells of itself that results can tell as well.
 *
 * @param metadata - As it is written in the file, in whatever case; some writers put names of their own before the word, with dots.
 */
export function tagsIn(metadata: Readonly<Record<string, string>>): Tags {
  const told = new Map(
    Object.entries(metadata)
      .toReversed()
      .map(([name, value]) => [name.split('.').at(-1)!.toLowerCase(), value]),
  );
  const valueOf = (tag: Tag) => [tag, ...(SAME[tag] ?? [])].map((name) => told.get(name)).find((value) => value);
  return tidyTags(Object.fromEntries(TAGS.map((tag) => [tag, valueOf(tag) ?? ''])));
}

/** Each in one line of signs that can be seen; those of which nothing is left are left out. */
export function tidyTags(tags: Tags): Tags {
  return Object.fromEntries(
    TAGS.flatMap((tag) => {
      const value = tidyLine(tags[tag] ?? '', LONGEST_TAG);
      return value === null ? [] : [[tag, value]];
    }),
  );
}
