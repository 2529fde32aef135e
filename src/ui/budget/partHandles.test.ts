import { describe, expect, it } from 'vitest';
import { planRendition } from '../../core/plan/planRendition.ts';
import {
  plainVideo,
  atQuality,
  encodedSound,
  ratedVideo,
  STARTING_RECIPE,
  type RateChoice,
  type Recipe,
} from '../../core/recipe/recipe.ts';
import { clockOf, factsOf } from '../../testing/facts.ts';
import { partHandles, type PartHandle } from './partHandles.ts';

const facts = factsOf();

function handlesOf(rate: RateChoice, changes: Partial<Recipe> = {}) {
  const recipe: Recipe = { ...STARTING_RECIPE, video: plainVideo('h264', rate), ...changes };
  const outcome = planRendition({
    ...{ facts, clock: clockOf(facts), recipe, portion: null, sounding: null },
    encoders: ['h264', 'hevc', 'aac'],
  });
  if (!outcome.ok) throw new Error('Expected a plan.');
  const handles = partHandles(recipe, outcome.plan);
  const of = (part: PartHandle['part']) => handles.find((handle) => handle.part === part);
  return { split: outcome.plan.budget.split, picture: of('picture'), sound: of('sound') };
}

const soundOf = (recipe: Recipe) => encodedSound(recipe)?.kbps;
const rateOf = (recipe: Recipe) => ratedVideo(recipe)?.rate;
/** Bytes of the 60 s programme at so many kb/s. */
const minuteAt = (kbps: number) => kbps * 125 * facts.durationSeconds;

describe('the edges of the parts', () => {
  it('at an average rate end the picture and the sound, each changed alone', () => {
    const { split, picture, sound } = handlesOf({ mode: 'average', kbps: 3000, passes: 2 });
    expect(picture?.at).toBe(split.video);
    expect(sound?.at).toBe(split.video! + split.audio);
    const wider = picture!.moveTo(minuteAt(4321));
    expect(rateOf(wider)).toEqual({ mode: 'average', kbps: 4320, passes: 2 });
    expect(soundOf(wider)).toBe(128);
    const louder = sound!.moveTo(split.video! + minuteAt(190));
    expect(soundOf(louder)).toBe(192);
    expect(rateOf(louder)).toEqual({ mode: 'average', kbps: 3000, passes: 2 });
  });

  it('under a cap part picture from sound: what one gains the other loses', () => {
    const cap = { mode: 'size', bytes: 20_000_000 } as const;
    const { split, picture, sound } = handlesOf(cap);
    expect(picture).toBeUndefined();
    expect(sound?.at).toBe(split.video);
    const louder = sound!.moveTo(split.video! - minuteAt(64));
    expect(soundOf(louder)).toBe(192);
    expect(rateOf(louder)).toEqual(cap);
    expect(soundOf(sound!.moveTo(0))).toBe(512);
    expect(soundOf(sound!.moveTo(20_000_000))).toBe(16);
  });

  it('leave the picture at least half of a small cap', () => {
    const { sound } = handlesOf({ mode: 'size', bytes: 3_000_000 });
    expect(sound?.range).toEqual([16, 200]);
    expect(soundOf(sound!.moveTo(0))).toBe(200);
  });

  it('at constant quality are the sound’s alone, and none without sound', () => {
    const quality = atQuality(23);
    const { picture, sound } = handlesOf(quality);
    expect(picture).toBeUndefined();
    expect(soundOf(sound!.step(-1))).toBe(120);
    expect(handlesOf(quality, { audio: null }).sound).toBeUndefined();
    expect(handlesOf(quality, { video: null }).sound?.at).toBe(minuteAt(128));
  });

  it('move by steps, never outside what the encoder takes', () => {
    const { picture } = handlesOf({ mode: 'average', kbps: 3000, passes: 1 });
    expect(rateOf(picture!.step(1))).toMatchObject({ kbps: 3030 });
    expect(rateOf(picture!.step(-10))).toMatchObject({ kbps: 2700 });
    expect(rateOf(picture!.moveTo(0))).toMatchObject({ kbps: 20 });
  });
});
