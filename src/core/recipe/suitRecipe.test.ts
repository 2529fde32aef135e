import { expect, it } from 'vitest';
import { AS_IT_IS } from '../geometry/preparation.ts';
import { factsOf } from '../../testing/facts.ts';
import type { ProgrammeFacts } from '../programme/facts.ts';
import { changesOf } from './recipeChanges.ts';
import { withContainer, withVideoCodec } from './changeRecipe.ts';
import { OWN_PICTURE, STARTING_RECIPE } from './recipe.ts';
import { STOCK_RECIPES } from './stockRecipes.ts';
import { asRecipe, keepWhole, startingOrder, suitRecipe } from './suitRecipe.ts';

const BARS = { top: 138, bottom: 138, left: 0, right: 0 };

it('leaves fields, bars and light to the programme, and keeps what the recipe says itself', () => {
  const own = { crop: BARS, deinterlace: 'bottom-first' as const, dynamicRange: 'standard' as const };
  expect(suitRecipe(STARTING_RECIPE, factsOf(), { ...AS_IT_IS, ...own }).picture).toEqual({
    ...STARTING_RECIPE.picture,
    ...own,
  });
  const said = { ...STARTING_RECIPE, picture: { ...OWN_PICTURE, deinterlace: 'top-first' as const } };
  expect(suitRecipe(said, factsOf(), { ...AS_IT_IS, ...own }).picture).toEqual({
    ...OWN_PICTURE,
    ...own,
    deinterlace: 'top-first',
  });
});

it('takes no programme’s field order along into a recipe', () => {
  const order = suitRecipe(STARTING_RECIPE, factsOf(), { ...AS_IT_IS, deinterlace: 'top-first' });
  expect(asRecipe(order, factsOf())).toEqual(STARTING_RECIPE);
});

it('takes tracks that are channels of one sound together, unless the recipe says which', () => {
  const mono = { ...factsOf().audio[0]!, channels: 1, layout: 'mono', language: null, title: null };
  const facts = factsOf({ audio: [mono, { ...mono, index: 2 }] });
  const suited = suitRecipe(STARTING_RECIPE, facts, AS_IT_IS);
  expect(suited.audio).toEqual({ ...STARTING_RECIPE.audio, tracks: [0, 1], joined: true });
  // Two channels are stereo, not mono at half the rate.
  expect(startingOrder(facts, null).audio).toEqual(suited.audio);
  expect(asRecipe(suited, facts)).toEqual(STARTING_RECIPE);
  const said = { ...STARTING_RECIPE, audio: { ...STARTING_RECIPE.audio, tracks: [1] } };
  expect(suitRecipe(said, facts, AS_IT_IS).audio).toEqual(said.audio);
  expect(suitRecipe(STARTING_RECIPE, factsOf(), AS_IT_IS).audio).toEqual(STARTING_RECIPE.audio);
});

it('leaves one channel one, at half the rate, and a programme without sound without', () => {
  const one = factsOf({ audio: [{ ...factsOf().audio[0]!, channels: 1, layout: 'mono' }] });
  const suited = suitRecipe(STARTING_RECIPE, one, AS_IT_IS);
  expect(suited.audio).toEqual({ ...STARTING_RECIPE.audio, channels: 'mono', kbps: 64 });
  expect(startingOrder(one, null).audio).toEqual(suited.audio);
  const low = { ...STARTING_RECIPE, audio: { ...STARTING_RECIPE.audio, codec: 'mp3' as const, kbps: 32 } };
  expect(suitRecipe(low, one, AS_IT_IS).audio).toMatchObject({ channels: 'mono', kbps: 32 });
  const silent = factsOf({ audio: [] });
  expect(suitRecipe(STARTING_RECIPE, silent, AS_IT_IS).audio).toBeNull();
  // A recipe made of such an order is one for programmes with sound too.
  for (const facts of [one, silent]) {
    const order = { ...suitRecipe(STARTING_RECIPE, facts, AS_IT_IS), name: 'Mine' };
    expect(asRecipe(order, facts, STARTING_RECIPE)).toEqual({ ...STARTING_RECIPE, name: 'Mine' });
    const inWebm = withContainer(order, 'webm');
    expect(asRecipe(inWebm, facts, STARTING_RECIPE).audio).toMatchObject({ codec: 'opus' });
  }
});

it('says nothing of a frame size that a programme has already, and takes the box along into a recipe', () => {
  const fitOf = (facts: ProgrammeFacts, recipe = STARTING_RECIPE, crop: typeof BARS | null = null) =>
    suitRecipe(recipe, facts, { ...AS_IT_IS, crop }).picture.fit;
  const { fit } = STARTING_RECIPE.picture;
  const small = factsOf({ width: 1280, height: 720 });
  expect(fitOf(small)).toBeNull();
  expect(fitOf(factsOf())).toEqual(fit);
  // Of fewer lines than the box has, and wider.
  expect(fitOf(factsOf({ width: 1600, height: 680 }))).toEqual(fit);
  const larger = { ...STARTING_RECIPE, picture: { ...STARTING_RECIPE.picture, fit: { ...fit, enlarge: true } } };
  expect(fitOf(factsOf({ width: 640, height: 360 }), larger)).toEqual({ ...fit, enlarge: true });
  expect(asRecipe(suitRecipe(STARTING_RECIPE, small, AS_IT_IS), small)).toEqual(STARTING_RECIPE);
});

it('begins an order as a recipe that nobody changed, whatever the programme is', () => {
  const [track] = factsOf().audio;
  const programmes = [
    factsOf(),
    factsOf({ width: 640, height: 360 }),
    factsOf({ audio: [] }),
    factsOf({ audio: [{ ...track!, channels: 1 }] }),
    factsOf({}, { interlaced: true, fieldOrder: 'bottom-first', bitDepth: 10 }),
  ];
  for (const { recipe } of STOCK_RECIPES) {
    for (const facts of programmes) {
      const order = startingOrder(facts, null, recipe);
      expect(changesOf(suitRecipe(recipe, facts, order.picture), order)).toEqual([]);
    }
  }
});

it('begins an order of sound alone with a recipe for sound', () => {
  const talk = factsOf({ video: null, width: 0, height: 0 });
  expect(startingOrder(talk, null)).toMatchObject({ name: 'Talk to listen to', container: 'm4a', video: null });
  const feed = { ...STARTING_RECIPE, name: 'Feed', container: 'mp3' as const, video: null };
  expect(startingOrder(talk, null, feed)).toMatchObject({ name: 'Feed', container: 'mp3' });
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
  expect(startingOrder(facts, null).picture.deinterlace).toBe('bottom-first');
  const archive = STOCK_RECIPES.find(({ id }) => id === 'stock-archive')!.recipe;
  expect(startingOrder(facts, null, archive).picture).toEqual(archive.picture);
});
