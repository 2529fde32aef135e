import { changeByFix, type RecipeFix } from '../../core/advice/applyFix.ts';
import { withoutPicture } from '../../core/recipe/changeRecipe.ts';
import type { Recipe } from '../../core/recipe/recipe.ts';

/** What mends one row: a fix of its advice, or the sound alone of what has no picture. */
export type RowFix = RecipeFix | { readonly kind: 'sound-only'; readonly label: string };

/** The recipe of one row, mended. */
export function fixRecipe(recipe: Recipe, fix: RowFix): Recipe {
  return fix.kind === 'sound-only' ? { ...withoutPicture(recipe), name: recipe.name } : changeByFix(recipe, fix);
}
