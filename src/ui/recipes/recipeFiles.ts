import { recipeSchema } from '../../contract/recipe.ts';
import { recipeFileSchema, type RecipeItem } from '../../contract/shelf.ts';
import { parseWith } from '../../contract/strictObject.ts';

type Fresh = Omit<RecipeItem, 'id' | 'isStock'>;

/** What a file of recipes holds, or where it is wrong. */
type Read = { readonly ok: true; readonly items: readonly Fresh[] } | { readonly ok: false; readonly message: string };

/** Reads one recipe, or many, as the documented formats write them. */
export function readRecipeFile(text: string): Read {
  let json: unknown;
  try {
    json = JSON.parse(text);
  } catch {
    return { ok: false, message: 'This is no JSON.' };
  }
  const isMany = typeof json === 'object' && json !== null && 'recipes' in json;
  const wrap = { format: 'linstock.recipes/1', recipes: [{ recipe: json }] };
  // A single recipe's faults are told by its own keys.
  const alone = isMany ? null : parseWith(recipeSchema, json);
  if (alone && !alone.ok) return { ok: false, message: tell(alone.faults) };
  const parsed = parseWith(recipeFileSchema, isMany ? json : wrap);
  if (!parsed.ok) return { ok: false, message: tell(parsed.faults) };
  return { ok: true, items: parsed.value.recipes.map((one) => ({ ...one, name: one.recipe.name })) };
}

function tell(faults: readonly { readonly field: string; readonly message: string }[]): string {
  return faults
    .slice(0, 3)
    .map(({ field, message }) => (field ? `${field}: ${message}` : message))
    .join(' ');
}

/** Saves recipes as `linstock.recipes/1`. */
export function saveRecipes(items: readonly RecipeItem[], name: string): void {
  const recipes = items.map(({ notes, tags, starred, recipe }) => ({ notes, tags, starred, recipe }));
  const text = JSON.stringify({ format: 'linstock.recipes/1', recipes }, null, 2);
  const address = URL.createObjectURL(new Blob([text], { type: 'application/json' }));
  const link = document.createElement('a');
  link.href = address;
  link.download = `${name.replace(/[/\\:*?"<>|]/g, '-')}.json`;
  link.click();
  URL.revokeObjectURL(address);
}
