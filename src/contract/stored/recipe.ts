import type { Recipe } from '../../core/recipe/recipe.ts';
import { recipeSchema } from '../recipe.ts';
import { parseWith } from '../strictObject.ts';
import { StoredUnreadable } from './unreadable.ts';

/** Lists tell hundreds of renditions by a handful of recipes, and reading one takes most of a millisecond (measured). */
const MOST_KEPT = 500;
const kept = new Map<string, Recipe>();

/**
 * A recipe as it lies in the database: keys added since have their defaults.
 *
 * @throws StoredUnreadable for what is of no known format, or damaged.
 */
export function readRecipe(stored: unknown): Recipe {
  const text = JSON.stringify(stored) ?? '';
  const before = kept.get(text);
  if (before) return before;
  const parsed = parseWith<Recipe>(recipeSchema, stored);
  if (!parsed.ok) throw new StoredUnreadable('A recipe', `${parsed.faults[0].field}: ${parsed.faults[0].message}`);
  if (kept.size >= MOST_KEPT) kept.clear();
  kept.set(text, parsed.value);
  return parsed.value;
}
