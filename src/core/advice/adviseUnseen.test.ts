import { describe, expect, it } from 'vitest';
import { factsOf } from '../../testing/facts.ts';
import { CLEAN, subjectOf } from '../../testing/subject.ts';
import { withoutPicture } from '../recipe/changeRecipe.ts';
import { copyingRecipe, STARTING_RECIPE, type Recipe } from '../recipe/recipe.ts';
import { STOCK_RECIPES } from '../recipe/stockRecipes.ts';
import { adviseUnseen } from './adviseUnseen.ts';
import { applyFix } from './applyFix.ts';

const LETTERBOXED = subjectOf({
  bars: { top: 138, bottom: 138, left: 0, right: 0 },
  black: [{ inFrame: 0, outFrame: 30 }],
  sound: { stepSeconds: 0.1, peaks: Array.from({ length: 600 }, (_, at) => (at < 20 ? -99 : -12)), momentary: [] },
  channels: { ...CLEAN.channels!, peaks: [-3, -99], silent: [1] },
});

const codesFor = (recipe: Recipe, portion: { inFrame: number; outFrame: number } | null = null) =>
  adviseUnseen(LETTERBOXED, { recipe, portion }).map(({ code }) => code);

describe('what is told of a programme whose page nobody looked at', () => {
  it('is nothing of a sound one, and no notes', () => {
    const order = { recipe: STARTING_RECIPE, portion: null };
    expect(adviseUnseen(subjectOf(), order)).toEqual([]);
    const noted = subjectOf({ loudness: { ...CLEAN.loudness!, integratedLufs: -23 } }, {}, { bitDepth: 10 });
    expect(adviseUnseen(noted, order)).toEqual([]);
  });

  it('is what stands in its picture and its sound', () => {
    expect(codesFor(STARTING_RECIPE)).toEqual(['bars', 'black-ends', 'channel-empty']);
  });

  it('is no longer told once it is seen to, in the order or in its portion', () => {
    let order: Parameters<typeof adviseUnseen>[1] = { recipe: STARTING_RECIPE, portion: null };
    for (const { fix } of adviseUnseen(LETTERBOXED, order)) {
      if (fix) order = applyFix(LETTERBOXED.facts, fix, order);
    }
    expect(order.portion).toEqual({ inFrame: 31, outFrame: 1499 });
    expect(adviseUnseen(LETTERBOXED, order).map(({ code }) => code)).toEqual(['channel-empty']);
  });

  it('is about what is made of it alone', () => {
    expect(codesFor(withoutPicture(STARTING_RECIPE))).toEqual(['channel-empty']);
    expect(codesFor({ ...STARTING_RECIPE, audio: null })).toEqual(['bars', 'black-ends']);
  });

  it('is of what is to lose nothing only what is wrong with it for good', () => {
    const archive = STOCK_RECIPES.find(({ id }) => id === 'stock-archive')!.recipe;
    const tape = subjectOf({ scan: 'top-first', damaged: [{ inFrame: 40, outFrame: 44 }] });
    expect(adviseUnseen(tape, { recipe: archive, portion: null }).map(({ code }) => code)).toEqual(['damaged']);
  });

  it('is of a copy only what is wrong with it for good', () => {
    expect(codesFor(copyingRecipe(factsOf(), STARTING_RECIPE, 'mp4'))).toEqual(['channel-empty']);
    const damaged = subjectOf({ damaged: [{ inFrame: 40, outFrame: 44 }], scan: 'top-first' });
    const copied = { recipe: copyingRecipe(factsOf(), STARTING_RECIPE, 'mp4'), portion: null };
    expect(adviseUnseen(damaged, copied).map(({ code }) => code)).toEqual(['damaged']);
  });

  it('is what captions a file with a picture leaves out, a copy too', () => {
    const captioned = subjectOf(
      {},
      { captions: ['deu', 'fra'].map((language, at) => ({ index: at + 2, codec: 'subrip', language })) },
    );
    const told = (recipe: Recipe) => adviseUnseen(captioned, { recipe, portion: null });
    expect(told(STARTING_RECIPE).map(({ message }) => message)).toEqual([
      'The master has captions inside, in German and French; renditions leave them out.',
    ]);
    expect(told(copyingRecipe(captioned.facts, STARTING_RECIPE, 'mp4'))).toHaveLength(1);
    expect(told(withoutPicture(STARTING_RECIPE))).toEqual([]);
  });

  it('is what its facts tell while it was not analysed', () => {
    const tape = { ...subjectOf({}, {}, { interlaced: true, fieldOrder: 'bottom-first' }), findings: null };
    expect(adviseUnseen(tape, { recipe: STARTING_RECIPE, portion: null }).map(({ code }) => code)).toEqual([
      'interlaced',
    ]);
  });
});
