import { describe, expect, it } from 'vitest';
import { clockOf, factsOf } from '../../testing/facts.ts';
import type { ProgrammeFacts } from '../programme/facts.ts';
import { pictureOf, soundsOf } from './encodePlan.ts';
import { copyContainer } from './planCopy.ts';
import { planRendition } from './planRendition.ts';
import type { PlanRequest } from './planRequest.ts';
import { COPIED_SOUND, copyingRecipe, STARTING_RECIPE } from '../recipe/recipe.ts';

const AAC = factsOf().audio.map((track) => ({ ...track, codec: 'aac', bitsPerSecond: 128_000 }));
const WEB = factsOf({ audio: AAC }, { bitsPerSecond: 4_000_000 });

function planOf(facts: ProgrammeFacts, changes: Partial<PlanRequest> = {}) {
  const recipe = copyingRecipe(facts, STARTING_RECIPE, 'mp4');
  const whole = { facts, clock: clockOf(facts), recipe, portion: null, sounding: null } as const;
  return planRendition({ ...whole, encoders: ['aac'], ...changes });
}

function faultsOf(facts: ProgrammeFacts, changes: Partial<PlanRequest> = {}): string[] {
  const outcome = planOf(facts, changes);
  return outcome.ok ? [] : outcome.problems.map(({ code, field }) => `${code} ${field}`);
}

describe('copying a master', () => {
  it('needs no encoder, no second pass, and weighs what its streams weigh', () => {
    const outcome = planOf(WEB);
    if (!outcome.ok) throw new Error(outcome.problems[0]?.message);
    const { passes, budget } = outcome.plan;
    const picture = pictureOf(outcome.plan);
    expect(passes).toEqual(['copy']);
    expect(budget).toMatchObject({ binds: 'source', split: { video: 30_000_000, audio: 960_000 } });
    expect(budget.expected!.likely).toBeGreaterThan(30_960_000);
    expect(budget.expected!.likely).toBeLessThan(30_960_000 * 1.01);
    expect(picture?.do).toEqual({ kind: 'copy', codec: 'h264' });
    expect(soundsOf(outcome.plan)).toMatchObject([{ from: [{ streamIndex: 1 }], out: { channels: null } }]);
    expect(picture?.out.size).toEqual({ width: 1920, height: 1080 });
  });

  it('leaves a silent master silent', () => {
    const outcome = planOf(factsOf({ audio: [] }));
    expect(outcome.ok && soundsOf(outcome.plan)).toEqual([]);
  });

  it('is offered only for what is written itself', () => {
    expect(copyContainer(WEB)).toBe('mp4');
    expect(copyContainer(factsOf({ audio: [] }))).toBe('mp4');
    // Bare samples go into MOV.
    expect(copyContainer(factsOf())).toBe('mov');
    expect(copyContainer(factsOf({ audio: AAC }, { codec: 'mpeg2video' }))).toBeNull();
    expect(copyContainer(factsOf({ audio: AAC, video: null }))).toBeNull();
  });

  it('is refused where it cannot be, each at its field', () => {
    expect(faultsOf(factsOf())).toEqual(['copy-cannot audio']);
    expect(faultsOf(factsOf({ audio: AAC }, { codec: 'mpeg2video' }))).toEqual(['copy-cannot video']);
    expect(faultsOf(WEB, { portion: { inFrame: 1, outFrame: 9 } })).toEqual(['copy-cannot portion']);
    const copying = copyingRecipe(WEB, STARTING_RECIPE, 'mp4');
    expect(faultsOf(WEB, { recipe: { ...copying, picture: STARTING_RECIPE.picture } })).toEqual([
      'copy-cannot picture',
    ]);
    const withSound = { ...STARTING_RECIPE, audio: COPIED_SOUND };
    expect(faultsOf(factsOf(), { recipe: withSound, encoders: ['h264'] })).toEqual(['copy-cannot audio']);
    const portion = { inFrame: 1, outFrame: 9 };
    expect(faultsOf(WEB, { recipe: withSound, encoders: ['h264'], portion })).toEqual([]);
    const unindexed = factsOf({ audio: AAC }, { bitsPerSecond: 4_000_000, seeksExactly: false });
    expect(faultsOf(unindexed, { recipe: withSound, encoders: ['h264'], portion })).toEqual(['copy-cannot portion']);
  });

  it('takes a portion from keyframe to keyframe, and says which frames that is', () => {
    const recipe = copyingRecipe(WEB, STARTING_RECIPE, 'mp4');
    const outcome = planOf(WEB, { recipe, portion: { inFrame: 260, outFrame: 400 }, cuts: [0, 250, 500] });
    if (!outcome.ok) throw new Error(outcome.problems[0]?.message);
    expect(outcome.plan.span).toMatchObject({ inFrame: 250, frameCount: 250 });
    expect(pictureOf(outcome.plan)?.from).toMatchObject({ inFrame: 250, frameCount: 250 });
    expect(outcome.plan.passes).toEqual(['sound', 'copy']);
    expect(outcome.plan.advisories.map(({ code }) => code)).toContain('copy-takes-more');
    const exact = planOf(WEB, { recipe, portion: { inFrame: 250, outFrame: 499 }, cuts: [0, 250, 500] });
    expect(exact.ok && exact.plan.advisories.map(({ code }) => code)).not.toContain('copy-takes-more');
  });

  it('takes one stream and encodes the other', () => {
    const copying = copyingRecipe(WEB, STARTING_RECIPE, 'mp4');
    const picture = planOf(WEB, { recipe: { ...copying, audio: STARTING_RECIPE.audio } });
    if (!picture.ok) throw new Error(picture.problems[0]?.message);
    expect(picture.plan.passes).toEqual(['sound', 'copy']);
    expect(picture.plan.streams.map((stream) => stream.do.kind)).toEqual(['copy', 'encode']);
    expect(picture.plan.budget).toMatchObject({ binds: 'source', split: { video: 30_000_000, audio: 960_000 } });

    const video = { ...STARTING_RECIPE.video, rate: { mode: 'size', bytes: 10_000_000 } as const };
    const recipe = { ...STARTING_RECIPE, video, audio: COPIED_SOUND };
    const sound = planOf(WEB, { recipe, encoders: ['h264'] });
    if (!sound.ok) throw new Error(sound.problems[0]?.message);
    expect(sound.plan.passes).toEqual(['sound', 'encode']);
    expect(soundsOf(sound.plan)[0]?.do).toEqual({ kind: 'copy', codec: 'aac' });
    expect(sound.plan.budget.split.audio).toBe(960_000);
  });

  it('takes the whole programme as a portion too', () => {
    expect(faultsOf(WEB, { portion: { inFrame: 0, outFrame: 1499 } })).toEqual([]);
  });
});
