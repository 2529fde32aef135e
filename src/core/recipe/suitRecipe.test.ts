import { expect, it } from 'vitest';
import { AS_IT_IS } from '../geometry/preparation.ts';
import { factsOf } from '../../testing/facts.ts';
import { withVideoCodec } from './changeRecipe.ts';
import { OWN_PICTURE, startingRecipe, STARTING_RECIPE } from './recipe.ts';
import { STOCK_RECIPES } from './stockRecipes.ts';
import { asRecipe, keepWhole, startingOrder, suitRecipe } from './suitRecipe.ts';

const BARS = { top: 138, bottom: 138, left: 0, right: 0 };

it('leaves fields, bars and light to the programme, and keeps what the recipe says itself', () => {
  const own = { crop: BARS, deinterlace: 'bottom-first' as const, dynamicRange: 'standard' as const };
  expect(suitRecipe(STARTING_RECIPE, factsOf(), own).picture).toEqual({ ...STARTING_RECIPE.picture, ...own });
  const said = { ...STARTING_RECIPE, picture: { ...OWN_PICTURE, deinterlace: 'top-first' as const } };
  expect(suitRecipe(said, factsOf(), own).picture).toEqual({ ...OWN_PICTURE, ...own, deinterlace: 'top-first' });
});

it('takes no programme’s field order along into a recipe', () => {
  const order = suitRecipe(STARTING_RECIPE, factsOf(), { ...AS_IT_IS, deinterlace: 'top-first' });
  expect(asRecipe(order)).toEqual(STARTING_RECIPE);
});

it('takes tracks that are channels of one sound together, unless the recipe says which', () => {
  const mono = { ...factsOf().audio[0]!, channels: 1, layout: 'mono', language: null, title: null };
  const facts = factsOf({ audio: [mono, { ...mono, index: 2 }] });
  const suited = suitRecipe(STARTING_RECIPE, facts, AS_IT_IS);
  expect(suited.audio).toEqual({ ...STARTING_RECIPE.audio, tracks: [0, 1], joined: true });
  // Two channels are stereo, not mono at half the rate.
  expect(startingOrder(facts, null).audio).toEqual(suited.audio);
  expect(asRecipe(suited)).toEqual(STARTING_RECIPE);
  const said = { ...STARTING_RECIPE, audio: { ...STARTING_RECIPE.audio, tracks: [1] } };
  expect(suitRecipe(said, facts, AS_IT_IS).audio).toEqual(said.audio);
  expect(suitRecipe(STARTING_RECIPE, factsOf(), AS_IT_IS).audio).toEqual(STARTING_RECIPE.audio);
});

it('stores a programme whole where nothing is to be lost, and as its recipe says elsewhere', () => {
  const facts = factsOf({}, { chroma: '4:2:2', bitDepth: 10 });
  const own = { ...AS_IT_IS, crop: BARS, deinterlace: 'top-first' as const };
  const kept = suitRecipe(withVideoCodec(STARTING_RECIPE, 'ffv1'), facts, own);
  expect(kept.video).toMatchObject({ chroma: '4:2:2', bitDepth: 10, alpha: false });
  // Nor are its fields taken apart.
  expect(kept.picture).toEqual(STARTING_RECIPE.picture);
  expect(suitRecipe(STARTING_RECIPE, facts, own).video).toEqual(STARTING_RECIPE.video);
});

it('keeps every track of a sound that is kept whole beside it', () => {
  const [track] = factsOf().audio;
  const facts = factsOf({ audio: [track!, track!].map((one) => ({ ...one, sampleRate: 44100 })) });
  const archive = STOCK_RECIPES.find(({ id }) => id === 'stock-archive')!.recipe;
  const kept = suitRecipe(archive, facts, AS_IT_IS);
  expect(kept.audio).toMatchObject({ tracks: [0, 1], sampleRate: 44100, channels: 'source', bitDepth: 24 });
  const fast = factsOf({ audio: [48000, 192000].map((sampleRate) => ({ ...track!, sampleRate })) });
  expect(suitRecipe(archive, fast, AS_IT_IS).audio).toMatchObject({ sampleRate: 96000 });
  // At a rate it stays what its recipe says.
  const lossy = { ...archive, audio: STARTING_RECIPE.audio };
  expect(suitRecipe(lossy, facts, AS_IT_IS).audio).toEqual(STARTING_RECIPE.audio);
});

it('keeps the whole picture of a master where an order is brought to a lossless codec', () => {
  const facts = factsOf({}, { chroma: '4:2:2', bitDepth: 10 });
  const web = suitRecipe(STARTING_RECIPE, facts, { ...AS_IT_IS, crop: BARS, deinterlace: 'top-first' });
  const kept = keepWhole(withVideoCodec(web, 'ffv1'), facts);
  expect(kept.picture).toEqual({ ...OWN_PICTURE, pixelAspect: 'source' });
  expect(kept.video).toMatchObject({ chroma: '4:2:2', bitDepth: 10 });
  expect(keepWhole(web, facts)).toEqual(web);
});

it('begins an order with fields taken apart, and with nothing touched where nothing is to be lost', () => {
  const facts = factsOf({}, { interlaced: true, fieldOrder: 'bottom-first' });
  expect(startingOrder(facts, null)).toEqual(startingRecipe(facts, null));
  expect(startingOrder(facts, null).picture.deinterlace).toBe('bottom-first');
  const archive = STOCK_RECIPES.find(({ id }) => id === 'stock-archive')!.recipe;
  expect(startingOrder(facts, null, archive).picture).toEqual(archive.picture);
});
