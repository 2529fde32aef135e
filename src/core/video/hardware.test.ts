import { describe, expect, it } from 'vitest';
import { clockOf, factsOf } from '../../testing/facts.ts';
import { encodeKindOf } from '../forecast/encodeWork.ts';
import { pictureOf } from '../plan/encodePlan.ts';
import { planRendition } from '../plan/planRendition.ts';
import { withHardware, withVideoCodec } from '../recipe/changeRecipe.ts';
import { describeRecipe } from '../recipe/describeRecipe.ts';
import { changesOf } from '../recipe/recipeChanges.ts';
import { atQuality, ratedVideo, STARTING_RECIPE, type RatedVideo, type Recipe } from '../recipe/recipe.ts';
import { withQuality, withRate } from '../recipe/withRate.ts';
import { recipeAt } from '../scale/grid.ts';

const AVERAGE = { mode: 'average', kbps: 2500, passes: 1 } as const;
const IN_HARDWARE = recipeOf({ ...STARTING_RECIPE.video, hardware: true, rate: AVERAGE });

function recipeOf(video: RatedVideo): Recipe {
  return { ...STARTING_RECIPE, video };
}

function plan(recipe: Recipe, hardware: readonly ('h264' | 'hevc')[] = ['h264']) {
  const facts = factsOf();
  const clock = clockOf(facts);
  return planRendition({
    ...{ facts, clock, recipe, hardware, portion: null, sounding: null },
    encoders: ['h264', 'hevc', 'aac'],
  });
}

const codesOf = (outcome: ReturnType<typeof plan>) =>
  outcome.ok ? [] : outcome.problems.map(({ code, field }) => `${code} ${field}`);

const isIn = (recipe: Recipe) => ratedVideo(recipe)?.hardware;

describe('a picture made in hardware', () => {
  it('is planned where a device encodes the codec, at an average whose size is roughly known', () => {
    const outcome = plan(IN_HARDWARE);
    if (!outcome.ok) throw new Error(outcome.problems[0]?.message);
    expect(pictureOf(outcome.plan)?.do).toMatchObject({ kind: 'encode', codec: 'h264', hardware: true });
    const { low, likely, high } = outcome.plan.budget.expected!;
    expect(high / likely).toBeGreaterThan(1.2);
    expect(low / likely).toBeLessThan(0.8);
    // Its speed is learned by itself.
    expect(encodeKindOf(outcome.plan)).toEqual({ codec: 'h264', effort: null, way: 'once' });
  });

  it('is refused where none does, at anything but an average in one pass, and with what not all devices take', () => {
    expect(codesOf(plan(IN_HARDWARE, ['hevc']))).toEqual(['hardware-missing video.hardware']);
    for (const rate of [atQuality(23), { ...AVERAGE, passes: 2 as const }, { mode: 'size', bytes: 9e6 } as const]) {
      const recipe = recipeOf({ ...STARTING_RECIPE.video, hardware: true, rate });
      expect(codesOf(plan(recipe))).toEqual(['hardware-holds-average video.hardware']);
    }
    const asked = { tune: 'film', profile: 'high', level: '4.1', bFrames: 2, closedGroups: true } as const;
    const fine = { ...asked, bitDepth: 10, keyframesAtScenes: false, keyframesAtPortions: true } as const;
    const recipe = recipeOf({ ...STARTING_RECIPE.video, ...fine, hardware: true, rate: AVERAGE });
    const fields = [...Object.keys(asked), 'keyframesAtScenes', 'keyframesAtPortions'];
    expect(codesOf(plan(recipe)).toSorted()).toEqual(
      ['format-not-taken video.bitDepth', ...fields.map((field) => `setting-not-taken video.${field}`)].toSorted(),
    );
  });

  it('is taken with a rate it holds and nothing it may not take, and left with one the codec’s own encoder holds', () => {
    const fussy = { ...STARTING_RECIPE.video, tune: 'film', bitDepth: 10, reordering: false } as const;
    const taken = withHardware(fussy, true);
    expect(codesOf(plan(recipeOf(taken)))).toEqual([]);
    expect(withHardware(taken, false)).toMatchObject({ hardware: false, rate: { mode: 'average', passes: 1 } });
    // One that is not in hardware stays as it is, to the tenth of a step.
    const own = { ...STARTING_RECIPE.video, rate: atQuality(23.5) };
    expect(withHardware(own, false)).toBe(own);
    const vp9 = { ...STARTING_RECIPE.video, codec: 'vp9', hardware: true, rate: AVERAGE } as const;
    expect(withHardware(vp9, false).rate).toMatchObject({ passes: 2 });
  });

  it('is left where something else is held to, another codec is taken, or trials are made', () => {
    expect(isIn(withRate(IN_HARDWARE, { ...AVERAGE, kbps: 900 }))).toBe(true);
    expect(isIn(withRate(IN_HARDWARE, { mode: 'size', bytes: 1e6 }))).toBe(false);
    expect(isIn(withQuality(IN_HARDWARE, 23))).toBe(false);
    expect(isIn(withVideoCodec(IN_HARDWARE, 'hevc'))).toBe(false);
    expect(isIn(recipeAt(IN_HARDWARE, { codec: 'h264', width: 640, height: 360 }, 23))).toBe(false);
  });

  it('is said in the sentence, and among what was changed', () => {
    expect(describeRecipe(IN_HARDWARE, null)).toMatch(/^H\.264 in hardware, .* averaging 2,500 kb\/s in one pass/);
    expect(changesOf(STARTING_RECIPE, IN_HARDWARE)).toEqual(['rate', 'effort']);
  });
});
