import type { ProgrammeView } from '../../contract/views.ts';
import type { Recipe } from '../../core/recipe/recipe.ts';

/** What every part of the order line is given. */
export interface OrderPartProps {
  readonly programme: ProgrammeView;
  readonly recipe: Recipe;
  readonly change: (recipe: Recipe) => void;
  /** The problem with a key of the recipe, if there is one. */
  readonly problemOf: (field: string) => string | undefined;
}
