import { useState } from 'react';
import type { FolderDefaults } from '../../core/naming/folderDefaults.ts';
import { useDefaults, useKeepDefaults, useShelf } from '../hooks/shelfQueries.ts';

const FIELD = 'border-rule bg-paper rounded border px-2 py-0.5';

/** What orders for a folder's masters begin with, and where their renditions go, where that is not as for all. */
export function FolderDefaultsForm({ folder }: { readonly folder: string }) {
  const { data: defaults } = useDefaults();
  const { data: recipes = [] } = useShelf('recipes');
  const keep = useKeepDefaults();
  const own = defaults?.folders.find((one) => one.folder === folder) ?? { folder, recipeId: null, output: null };
  const [typed, setTyped] = useState<string | null>(null);
  const change = (part: Partial<FolderDefaults>) => {
    if (!defaults) return;
    const next = { ...own, ...part };
    const others = defaults.folders.filter((one) => one.folder !== folder);
    const isOwn = next.recipeId !== null || next.output !== null;
    keep.mutate({ ...defaults, folders: isOwn ? [...others, next] : others }, { onSettled: () => setTyped(null) });
  };
  return (
    <span className="flex flex-wrap items-center gap-x-3 gap-y-1 text-sm">
      <label className="flex items-center gap-1">
        <span className="text-quiet">begins with</span>
        <select
          className={FIELD}
          value={own.recipeId ?? ''}
          onChange={(event) => change({ recipeId: event.target.value || null })}
        >
          <option value="">as for all</option>
          {recipes.map(({ id, name }) => (
            <option key={id} value={id}>
              {name}
            </option>
          ))}
        </select>
      </label>
      <label className="flex items-center gap-1">
        <span className="text-quiet">renditions to</span>
        <input
          className={`${FIELD} figure w-56`}
          placeholder="as for all"
          value={typed ?? own.output ?? ''}
          onChange={(event) => setTyped(event.target.value)}
          onBlur={() =>
            typed !== null && typed.trim() !== (own.output ?? '') && change({ output: typed.trim() || null })
          }
          onKeyDown={(event) => event.key === 'Enter' && event.currentTarget.blur()}
        />
      </label>
    </span>
  );
}
