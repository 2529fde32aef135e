import { benchRecipes } from './scripts/bench/recipes.ts';
await benchRecipes();
