import { hasWords } from '../text.ts';

/** What is kept on the shelf: one list of each kind. */
export const SHELF_KINDS = ['recipe', 'bundle', 'brief'] as const;
export type ShelfKind = (typeof SHELF_KINDS)[number];

/** What everything on the shelf has. */
export interface ShelfItem {
  readonly id: string;
  readonly name: string;
  readonly notes: string;
  readonly tags: readonly string[];
  readonly starred: boolean;
  /** Ships, and is not changed but copied. */
  readonly isStock: boolean;
}

/** Whether words are all found in what an item says of itself. */
export function matches({ name, notes, tags }: ShelfItem, words: string): boolean {
  return hasWords([name, notes, ...tags].join(' '), words);
}

/** Starred first, then as they were put in order. */
export function inOrder<Item extends ShelfItem>(items: readonly Item[]): Item[] {
  return items.toSorted((one, other) => Number(other.starred) - Number(one.starred));
}
