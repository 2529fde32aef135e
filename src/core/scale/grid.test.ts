import { describe, expect, it } from 'vitest';
import { clockOf, factsOf } from '../../testing/facts.ts';
import { planRendition } from '../plan/planRendition.ts';
import { atQuality, plainVideo, STARTING_RECIPE, type Recipe } from '../recipe/recipe.ts';
import { SOUND_CODECS } from '../sound/codecs.ts';
import { RATED, RATED_CODECS, VIDEO_CODECS } from '../video/codecs.ts';
import { openSizeGrid, otherEffort, proposeGrid, recipeAt, spread } from './grid.ts';

const FACTS = factsOf();
const EVERY = [...VIDEO_CODECS, ...SOUND_CODECS];
const order = (part: Partial<Recipe> = {}): Recipe => ({ ...STARTING_RECIPE, audio: null, ...part });

describe('what is worth trying of an order', () => {
  it('is its codec and the next, its frame size and the next two down', () => {
    const grid = proposeGrid(FACTS, order({ picture: { ...STARTING_RECIPE.picture, fit: { height: 1080 } } }), EVERY);
    expect(grid.map(({ codec, height }) => `${codec} ${height}`)).toEqual([
      'h264 1080',
      'h264 720',
      'h264 540',
      'hevc 1080',
      'hevc 720',
      'hevc 540',
    ]);
    expect(grid.every(({ width, height }) => Math.abs(width / height - 16 / 9) < 0.01)).toBe(true);
  });

  it('is only what its container takes and this machine encodes', () => {
    const webm = order({ container: 'webm', video: plainVideo('vp9', atQuality(32)) });
    expect(new Set(proposeGrid(FACTS, webm, EVERY).map(({ codec }) => codec))).toEqual(new Set(['vp9', 'av1']));
    expect(new Set(proposeGrid(FACTS, webm, ['vp9']).map(({ codec }) => codec))).toEqual(new Set(['vp9']));
  });

  it('is nothing where there is no rate to choose, or no picture', () => {
    expect(proposeGrid(FACTS, order({ video: { codec: 'copy' } }), EVERY)).toEqual([]);
    expect(proposeGrid(FACTS, order({ video: null }), EVERY)).toEqual([]);
    expect(proposeGrid({ ...FACTS, video: null }, order(), EVERY)).toEqual([]);
  });

  it.each(RATED_CODECS)('spreads qualities over the useful part of %s’s scale, from fine to coarse', (codec) => {
    const { finestSensible, worst, usual } = RATED[codec].quality;
    const values = spread(codec);
    expect(values).toEqual(values.toSorted((a, b) => a - b));
    expect(values.length).toBeGreaterThanOrEqual(3);
    expect(values[0]).toBeGreaterThanOrEqual(finestSensible);
    expect(values.at(-1)).toBeLessThanOrEqual(worst);
    expect(values).toContain(usual);
  });

  it('can be planned at each of its points', () => {
    for (const { qualities, ...at } of proposeGrid(FACTS, order(), EVERY)) {
      for (const quality of qualities) {
        const outcome = planRendition({
          facts: FACTS,
          clock: clockOf(FACTS),
          recipe: recipeAt(order(), at, quality),
          portion: null,
          encoders: EVERY,
          sounding: null,
        });
        expect(outcome.ok).toBe(true);
        const picture = outcome.ok ? outcome.plan.streams.find((one) => one.kind === 'picture') : null;
        expect(picture).toMatchObject({ out: { size: { width: at.width, height: at.height } } });
      }
    }
  });
});

describe('another effort', () => {
  it('is the next thorougher, or what comes before the most thorough', () => {
    expect((['fast', 'balanced', 'thorough'] as const).map(otherEffort)).toEqual(['balanced', 'thorough', 'balanced']);
  });

  it('is that of its curve, and the order’s where it has none', () => {
    const at = { codec: 'h264', width: 640, height: 360 } as const;
    expect(recipeAt(order(), at, 23).video).toMatchObject({ effort: 'balanced' });
    expect(recipeAt(order(), { ...at, effort: 'thorough' }, 23).video).toMatchObject({ effort: 'thorough' });
  });
});

describe('the frame sizes of a size to fill that leaves them open', () => {
  const filling = (fit: Recipe['picture']['fit'], mode: 'size' | 'quality' = 'size') =>
    order({
      picture: { ...STARTING_RECIPE.picture, fit },
      video: plainVideo('h264', mode === 'size' ? { mode, bytes: 5e6 } : atQuality(23)),
    });
  const open = { height: 1080, orSmaller: true };

  it('are its own and the next two down, the smaller at finer qualities, since they come to about the same bytes', () => {
    const grid = openSizeGrid(FACTS, filling(open), 30);
    expect(grid.map(({ height }) => height)).toEqual([1080, 720, 540]);
    const middles = grid.map(({ qualities }) => qualities[1]!);
    expect(middles).toEqual(middles.toSorted((a, b) => b - a));
    expect(middles[0]).toBeGreaterThanOrEqual(30);
    for (const { qualities } of grid) expect(qualities).toEqual(qualities.toSorted((a, b) => a - b));
  });

  it('are tried over the useful range while it is not known what the cap comes to', () => {
    expect(openSizeGrid(FACTS, filling(open), null)[0]?.qualities).toEqual(spread('h264'));
  });

  it('are none where nothing is left open, or there is no cap to judge by', () => {
    expect(openSizeGrid(FACTS, filling({ height: 1080 }), 30)).toEqual([]);
    expect(openSizeGrid(FACTS, filling(open, 'quality'), 30)).toEqual([]);
  });
});
