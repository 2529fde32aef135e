'use client';

import { Download, Upload } from 'lucide-react';
import Link from 'next/link';
import { useRef, useState, type ReactNode } from 'react';
import { toast } from 'sonner';
import type { BriefItem, BundleItem, RecipeItem } from '../../contract/shelf.ts';
import { describeBrief } from '../../core/brief/describeBrief.ts';
import { describeRecipe } from '../../core/recipe/describeRecipe.ts';
import { matches, type ShelfItem } from '../../core/shelf/shelf.ts';
import {
  useDefaults,
  useKeepDefaults,
  useShelf,
  useShelfWork,
  type ShelfList,
  type ShelfLists,
} from '../hooks/shelfQueries.ts';
import { Button } from '../kit/Button.tsx';
import { SearchField } from '../kit/SearchField.tsx';
import { BriefForm } from './BriefForm.tsx';
import { BundleForm } from './BundleForm.tsx';
import { readRecipeFile, saveRecipes } from './recipeFiles.ts';
import { ShelfRow } from './ShelfRow.tsx';

/** Everything that is set up once and used a hundred times. */
export function RecipesPage() {
  const [words, setWords] = useState('');
  return (
    <main className="mx-auto max-w-6xl px-5 py-5 2xl:max-w-[90rem]">
      <div className="mb-3 flex flex-wrap items-baseline gap-4">
        <h1 className="text-2xl font-semibold">Recipes & briefs</h1>
        <SearchField
          label="Find recipes and briefs"
          placeholder="Find by name, note or tag"
          words={words}
          onWords={setWords}
          className="ml-auto w-72"
        />
      </div>
      <Recipes words={words} />
      <Bundles words={words} />
      <Briefs words={words} />
    </main>
  );
}

function Recipes({ words }: { readonly words: string }) {
  const { data: recipes = [] } = useShelf('recipes');
  const { put } = useShelfWork('recipes');
  const { data: defaults } = useDefaults();
  const keepDefaults = useKeepDefaults();
  const input = useRef<HTMLInputElement>(null);
  const own = recipes.filter(({ isStock }) => !isStock);
  const take = async (file: File) => {
    const read = readRecipeFile(await file.text());
    if (!read.ok) {
      toast.error(`${file.name}: ${read.message}`);
      return;
    }
    for (const item of read.items) await put.mutateAsync(item);
    toast(`${read.items.length} taken in from ${file.name}.`);
  };
  return (
    <Shelf
      list="recipes"
      title="Recipes"
      about="An order that can be given to any programme. Save one from a programme’s page."
      words={words}
      items={recipes}
      sentence={(item: RecipeItem) => describeRecipe(item.recipe, null)}
      more={
        <>
          <input
            ref={input}
            type="file"
            accept="application/json,.json"
            className="hidden"
            aria-label="A file of recipes"
            onChange={(event) => {
              const [file] = event.target.files ?? [];
              if (file) void take(file);
              event.target.value = '';
            }}
          />
          <Button onClick={() => input.current?.click()}>
            <Upload aria-hidden="true" size={16} /> Take in from a file
          </Button>
          <Button disabled={own.length === 0} onClick={() => saveRecipes(own, 'recipes')}>
            <Download aria-hidden="true" size={16} /> Save all to a file
          </Button>
        </>
      }
      ofRow={(item) => (
        <>
          <Button
            look="quiet"
            aria-pressed={defaults?.recipeId === item.id}
            aria-label={`Begin orders with ${item.name}`}
            className={defaults?.recipeId === item.id ? 'text-ink font-semibold' : ''}
            onClick={() =>
              keepDefaults.mutate({
                folders: defaults?.folders ?? [],
                recipeId: defaults?.recipeId === item.id ? null : item.id,
              })
            }
          >
            {defaults?.recipeId === item.id ? 'Orders begin with it' : 'Begin with it'}
          </Button>
          <Button
            look="quiet"
            aria-label={`Save ${item.name} to a file`}
            onClick={() => saveRecipes([item], item.name)}
          >
            Save to a file
          </Button>
        </>
      )}
    />
  );
}

function Bundles({ words }: { readonly words: string }) {
  const { data: bundles = [] } = useShelf('bundles');
  const { data: recipes = [] } = useShelf('recipes');
  const named = (id: string) => recipes.find((one) => one.id === id)?.name ?? 'a deleted recipe';
  return (
    <Shelf
      list="bundles"
      title="Bundles"
      about="Several recipes as one: every programme gets a file by each."
      words={words}
      items={bundles}
      sentence={(item: BundleItem) => item.recipeIds.map(named).join(' · ')}
      more={<BundleForm recipes={recipes} />}
      ofRow={() => null}
    />
  );
}

function Briefs({ words }: { readonly words: string }) {
  const { data: briefs = [] } = useShelf('briefs');
  return (
    <Shelf
      list="briefs"
      title="Briefs"
      about="What a receiver asks for. An order is bent to it, and each file checked against it by measuring."
      words={words}
      items={briefs}
      sentence={(item: BriefItem) => describeBrief(item.brief)}
      more={<BriefForm />}
      ofRow={() => null}
    />
  );
}

interface ShelfProps<List extends ShelfList> {
  readonly list: List;
  readonly title: string;
  readonly about: string;
  readonly words: string;
  readonly items: readonly ShelfLists[List][];
  readonly sentence: (item: ShelfLists[List]) => string;
  /** Beside the heading. */
  readonly more: ReactNode;
  readonly ofRow: (item: ShelfLists[List]) => ReactNode;
}

function Shelf<List extends ShelfList>({ list, title, about, words, items, sentence, more, ofRow }: ShelfProps<List>) {
  const work = useShelfWork(list);
  const found = items.filter((item) => matches(item, words));
  const own = items.filter(({ isStock }) => !isStock);
  /** The own one that lies so many places further on takes it before itself. */
  const move = (item: ShelfItem, by: -1 | 1) => {
    const place = own.findIndex(({ id }) => id === item.id);
    const before = by < 0 ? own[place - 1] : own[place + 2];
    if (by < 0 && !before) return;
    work.change.mutate({ id: item.id, before: before?.id ?? null });
  };
  return (
    <section className="mb-7" aria-label={title} data-testid={`shelf-${list}`}>
      <div className="mb-1 flex flex-wrap items-center gap-3">
        <h2 className="text-lg font-semibold">{title}</h2>
        <span className="text-quiet grow text-sm">{about}</span>
        {more}
      </div>
      {found.length === 0 && <p className="text-quiet">None is called so.</p>}
      <ul>
        {found.map((item) => (
          <ShelfRow
            key={item.id}
            item={item}
            sentence={sentence(item)}
            onChange={(change) => work.change.mutate({ id: item.id, ...change })}
            onMove={(by) => move(item, by)}
            onDelete={() => work.remove.mutate(item)}
            onDuplicate={() => work.put.mutate({ ...copyOf(item), name: `${item.name}, a copy` })}
          >
            {ofRow(item)}
            <Link
              href={`/drop/${list.slice(0, -1)}/${item.id}`}
              className="text-quiet hover:bg-sunk hover:text-ink rounded px-3 py-1"
            >
              Drop-on place
            </Link>
          </ShelfRow>
        ))}
      </ul>
    </section>
  );
}

/** Everything of an item but what makes it that one. */
function copyOf<Item extends ShelfItem>(item: Item): Omit<Item, 'id' | 'isStock'> {
  const own = Object.entries(item).filter(([key]) => key !== 'id' && key !== 'isStock');
  return Object.fromEntries(own) as unknown as Omit<Item, 'id' | 'isStock'>;
}
