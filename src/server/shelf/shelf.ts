import type { Schema } from 'yup';
import { briefSchema } from '../../contract/brief.ts';
import type { BriefItem, BundleItem, RecipeItem, ShelfChange } from '../../contract/shelf.ts';
import { readRecipe } from '../../contract/stored/recipe.ts';
import { StoredUnreadable } from '../../contract/stored/unreadable.ts';
import { parseWith } from '../../contract/strictObject.ts';
import { STOCK_BRIEFS } from '../../core/brief/stockBriefs.ts';
import { STOCK_RECIPES } from '../../core/recipe/stockRecipes.ts';
import type { ShelfItem, ShelfKind } from '../../core/shelf/shelf.ts';
import * as statements from '../../store/statements/shelf.ts';
import type { Context } from '../context.ts';
import { givenOf } from '../givenOf.ts';
import { Refusal } from '../refusal.ts';

interface ShelfRow extends Record<string, unknown> {
  readonly id: string;
  readonly name: string;
  readonly notes: string;
  readonly tags: string[];
  readonly starred: boolean;
  readonly body: unknown;
}

/** What is put on the shelf. */
export type Fresh<Item extends ShelfItem> = Omit<Item, 'id' | 'isStock'>;

/** What is not given stays. */
export type Given<Item> = { readonly [Key in keyof Item]?: Item[Key] | undefined };

/** One list of the shelf: its ways with what it keeps. */
export interface Shelf<Item extends ShelfItem> {
  /** Those that ship, then people's own in their order. */
  list(context: Context): Promise<Item[]>;
  /** @throws Refusal `not-found`. */
  find(context: Context, id: string): Promise<Item>;
  put(context: Context, item: Fresh<Item>): Promise<Item>;
  /** @throws Refusal `not-found`, and `ships-unchanged` for what ships. */
  change(context: Context, id: string, change: ShelfChange & Given<Fresh<Item>>): Promise<Item>;
  /** It can be restored. */
  remove(context: Context, id: string): Promise<void>;
}

interface ShelfParts<Item extends ShelfItem> {
  readonly kind: ShelfKind;
  /** As people call one. */
  readonly word: string;
  readonly stock: readonly Item[];
  /** What is kept beside what everything has. */
  readonly bodyOf: (item: Fresh<Item>) => object;
  readonly read: (common: ShelfItem, body: unknown) => Item;
}

function createShelf<Item extends ShelfItem>({ kind, word, stock, bodyOf, read }: ShelfParts<Item>): Shelf<Item> {
  const view = ({ id, name, notes, tags, starred, body }: ShelfRow) =>
    read({ id, name, notes, tags, starred, isStock: false }, body);
  const find = async (context: Context, id: string) => {
    const shipped = stock.find((one) => one.id === id);
    if (shipped) return shipped;
    const [row] = await context.database.query<ShelfRow>(statements.FIND_ON_SHELF, [kind, id]);
    if (!row) throw new Refusal('not-found', `There is no ${word} ${id}; it may have been deleted.`);
    return view(row);
  };
  const told = (context: Context) => context.events.publish({ type: 'shelf', kind });
  const requireOwn = (id: string) => {
    if (!stock.some((one) => one.id === id)) return;
    throw new Refusal(
      'ships-unchanged',
      `This ${word} ships with Linstock and stays as it is; duplicate it and change that.`,
    );
  };
  const valuesOf = (item: Fresh<Item>) => [
    item.name,
    item.notes,
    JSON.stringify(item.tags),
    item.starred,
    JSON.stringify(bodyOf(item)),
  ];
  return {
    list: async (context) => {
      const rows = await context.database.query<ShelfRow>(statements.LIST_SHELF, [kind]);
      // One that another version wrote must not hide the others.
      const own = rows.flatMap((row) => {
        try {
          return [view(row)];
        } catch (error) {
          if (!(error instanceof StoredUnreadable)) throw error;
          context.logger.warn({ kind, id: row.id, err: error }, 'cannot be read');
          return [];
        }
      });
      return [...own, ...stock];
    },
    find,
    put: async (context, item) => {
      const values = [context.newId(), kind, ...valuesOf(item), context.now()];
      const [row] = await context.database.query<ShelfRow>(statements.PUT_ON_SHELF, values);
      told(context);
      return view(row!);
    },
    change: async (context, id, { before, restored, ...parts }) => {
      requireOwn(id);
      if (restored) await context.database.query(statements.RESTORE_TO_SHELF, [kind, id]);
      const known = await find(context, id);
      const item = { ...known, ...givenOf(parts) } as Item;
      const values = [kind, id, ...valuesOf(item), context.now()];
      const [row] = await context.database.query<ShelfRow>(statements.CHANGE_ON_SHELF, values);
      if (before !== undefined) await context.database.query(statements.MOVE_ON_SHELF, [kind, id, before]);
      told(context);
      return view(row!);
    },
    remove: async (context, id) => {
      requireOwn(id);
      const rows = await context.database.query(statements.REMOVE_FROM_SHELF, [kind, id, context.now()]);
      if (rows.length === 0) throw new Refusal('not-found', `There is no ${word} ${id}; it may have been deleted.`);
      told(context);
    },
  };
}

const SHIPPED = { tags: [], starred: false, isStock: true } as const;

/** The recipe is called as it is on the shelf. */
const asNamed = (item: Fresh<RecipeItem>) => ({ ...item.recipe, name: item.name });

export const recipes = createShelf<RecipeItem>({
  kind: 'recipe',
  word: 'recipe',
  stock: STOCK_RECIPES.map(({ id, recipe, notes }) => ({ ...SHIPPED, id, name: recipe.name, notes, recipe })),
  bodyOf: asNamed,
  read: (common, body) => ({ ...common, recipe: { ...readRecipe(body), name: common.name } }),
});

export const bundles = createShelf<BundleItem>({
  kind: 'bundle',
  word: 'bundle',
  stock: [
    {
      ...SHIPPED,
      id: 'stock-three-versions',
      name: 'All three versions',
      notes: 'Large, usual and small, for pages that choose by the visitor’s line.',
      recipeIds: ['stock-web-1080', 'stock-web-720', 'stock-web-480'],
    },
  ],
  bodyOf: ({ recipeIds }) => recipeIds,
  read: (common, body) => ({ ...common, recipeIds: body as string[] }),
});

export const briefs = createShelf<BriefItem>({
  kind: 'brief',
  word: 'brief',
  stock: STOCK_BRIEFS.map(({ id, brief, notes }) => ({ ...SHIPPED, id, name: brief.name, notes, brief })),
  bodyOf: ({ brief, name }) => ({ ...brief, name }),
  read: (common, body) => ({ ...common, brief: readStored('A brief', briefSchema, body) as BriefItem['brief'] }),
});

function readStored<Value>(what: string, schema: Schema<Value>, body: unknown): Value {
  const parsed = parseWith(schema, body);
  if (!parsed.ok) throw new StoredUnreadable(what, `${parsed.faults[0].field}: ${parsed.faults[0].message}`);
  return parsed.value;
}
