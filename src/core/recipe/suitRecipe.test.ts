import { expect, it } from 'vitest';
import { factsOf } from '../../testing/facts.ts';
import { withVideoCodec } from './changeRecipe.ts';
import { OWN_PICTURE, STARTING_RECIPE } from './recipe.ts';
import { asRecipe, suitRecipe } from './suitRecipe.ts';

const BARS = { top: 138, bottom: 138, left: 0, right: 0 };

it('leaves fields and bars to the programme, and keeps what the recipe says itself', () => {
  const own = { crop: BARS, deinterlace: 'bottom-first' as const };
  expect(suitRecipe(STARTING_RECIPE, factsOf(), own).picture).toEqual({ ...STARTING_RECIPE.picture, ...own });
  const said = { ...STARTING_RECIPE, picture: { ...OWN_PICTURE, deinterlace: 'top-first' as const } };
  expect(suitRecipe(said, factsOf(), own).picture).toEqual({ ...OWN_PICTURE, crop: BARS, deinterlace: 'top-first' });
});

it('takes no programme’s field order along into a recipe', () => {
  const order = suitRecipe(STARTING_RECIPE, factsOf(), { crop: null, deinterlace: 'top-first' });
  expect(asRecipe(order)).toEqual(STARTING_RECIPE);
});

it('stores a programme whole where nothing is to be lost, and as its recipe says elsewhere', () => {
  const facts = factsOf({}, { chroma: '4:2:2', bitDepth: 10 });
  const own = { crop: BARS, deinterlace: 'top-first' as const };
  const kept = suitRecipe(withVideoCodec(STARTING_RECIPE, 'ffv1'), facts, own);
  expect(kept.video).toMatchObject({ chroma: '4:2:2', bitDepth: 10, alpha: false });
  // Nor are its fields taken apart.
  expect(kept.picture).toEqual(STARTING_RECIPE.picture);
  expect(suitRecipe(STARTING_RECIPE, facts, own).video).toEqual(STARTING_RECIPE.video);
});
