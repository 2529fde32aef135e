import { Plus } from 'lucide-react';
import { useState } from 'react';
import type { RecipeItem } from '../../contract/shelf.ts';
import { useShelfWork } from '../hooks/shelfQueries.ts';
import { Button } from '../kit/Button.tsx';
import { Sheet } from '../kit/Sheet.tsx';

/** Puts recipes together into a new bundle. */
export function BundleForm({ recipes }: { readonly recipes: readonly RecipeItem[] }) {
  const [isOpen, setOpen] = useState(false);
  const [name, setName] = useState('');
  const [ids, setIds] = useState<readonly string[]>([]);
  const { put } = useShelfWork('bundles');
  const isReady = name.trim() !== '' && ids.length > 0;
  const toggle = (id: string) => setIds(ids.includes(id) ? ids.filter((one) => one !== id) : [...ids, id]);
  return (
    <>
      <Button onClick={() => setOpen(true)}>
        <Plus aria-hidden="true" size={16} /> New bundle
      </Button>
      <Sheet
        isOpen={isOpen}
        onOpenChange={setOpen}
        title="A new bundle"
        description="Every programme gets a file by each."
      >
        <form
          onSubmit={(event) => {
            event.preventDefault();
            if (!isReady) return;
            put.mutate({ name, notes: '', tags: [], starred: false, recipeIds: ids });
            setOpen(false);
            setName('');
            setIds([]);
          }}
        >
          <label className="mb-3 block">
            Name{' '}
            <input
              className="border-rule bg-paper ml-2 w-80 rounded border px-2 py-1"
              value={name}
              onChange={(event) => setName(event.target.value)}
            />
          </label>
          <div role="group" aria-label="Recipes" className="columns-2 gap-x-3">
            {recipes.map((recipe) => (
              <label key={recipe.id} className="flex break-inside-avoid items-baseline gap-2 py-1">
                <input type="checkbox" checked={ids.includes(recipe.id)} onChange={() => toggle(recipe.id)} />
                {recipe.name}
              </label>
            ))}
          </div>
          <Button look="main" type="submit" className="mt-3" disabled={!isReady}>
            Keep the bundle
          </Button>
        </form>
      </Sheet>
    </>
  );
}
