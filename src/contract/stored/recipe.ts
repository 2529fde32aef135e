import type { Recipe } from '../../core/recipe/recipe.ts';
import { recipeSchema } from '../recipe.ts';
import { parseWith } from '../strictObject.ts';
import { StoredUnreadable } from './unreadable.ts';

/**
 * A recipe as it lies in the database: keys added since have their defaults.
 *
 * @throws StoredUnreadable for what is of no known format, or damaged.
 */
export function readRecipe(stored: unknown): Recipe {
  const parsed = parseWith(recipeSchema, stored);
  if (!parsed.ok) throw new StoredUnreadable('A recipe', `${parsed.faults[0].field}: ${parsed.faults[0].message}`);
  return parsed.value;
}
