import type { ProgrammeFacts } from '../../core/programme/facts.ts';
import { describeRecipe } from '../../core/recipe/describeRecipe.ts';
import type { Recipe } from '../../core/recipe/recipe.ts';
import { suitRecipe } from '../../core/recipe/suitRecipe.ts';
import { useShelf } from '../hooks/shelfQueries.ts';
import { Choices } from './Choices.tsx';
import { Token } from './Token.tsx';

interface Props {
  readonly programme: ProgrammeFacts;
  readonly recipe: Recipe;
  readonly change: (recipe: Recipe) => void;
}

/** Which saved recipe an order began as; another takes its place, as it suits the programme. */
export function RecipeToken({ programme, recipe, change }: Props) {
  const { data: recipes = [] } = useShelf('recipes');
  const base = recipes.find(({ name }) => name === recipe.name);
  return (
    <Token isWide label="Recipe" text={base?.name ?? 'no saved recipe'}>
      {(close) => (
        <Choices
          label="Recipe"
          value={base?.id ?? null}
          choices={recipes.map(({ id, name, notes, recipe }) => ({
            value: id,
            label: name,
            hint: notes || describeRecipe(recipe, null),
          }))}
          onChange={(id) => {
            const taken = recipes.find((one) => one.id === id);
            if (taken) change(suitRecipe(taken.recipe, programme, recipe.picture));
            close();
          }}
        />
      )}
    </Token>
  );
}
