/** What holds for the masters of one media folder; null is what holds for all. */
export interface FolderDefaults {
  /** Absolute. */
  readonly folder: string;
  readonly recipeId: string | null;
  /** Where their renditions go, absolute. */
  readonly output: string | null;
}

/** What orders begin with, and where it is otherwise for some folders. */
export interface OrderDefaults {
  readonly recipeId: string | null;
  readonly folders: readonly FolderDefaults[];
}

/**
 * What holds for a master: of the folders it lies in the innermost says it, and what that leaves open holds for all.
 *
 * @param file - Absolute, with `/` between folders.
 */
export function defaultsFor({ recipeId, folders }: OrderDefaults, file: string): Omit<FolderDefaults, 'folder'> {
  const [own] = folders
    .filter(({ folder }) => file.startsWith(folder.endsWith('/') ? folder : `${folder}/`))
    .toSorted((a, b) => b.folder.length - a.folder.length);
  return { recipeId: own?.recipeId ?? recipeId, output: own?.output ?? null };
}
