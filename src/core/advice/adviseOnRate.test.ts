import { describe, expect, it } from 'vitest';
import { clockOf, factsOf } from '../../testing/facts.ts';
import { planRendition } from '../plan/planRendition.ts';
import type { FrameRateChoice } from '../recipe/frameRate.ts';
import { STARTING_RECIPE } from '../recipe/recipe.ts';
import { rational } from '../timing/rational.ts';
import { applyFix } from './applyFix.ts';

const tape = factsOf({ frameRate: rational(25, 1) }, { interlaced: true, fieldOrder: 'top-first' });

/** Of the rate alone. */
function advisedOn(frameRate: FrameRateChoice, deinterlace: 'top-first' | null) {
  const recipe = { ...STARTING_RECIPE, time: { frameRate }, picture: { ...STARTING_RECIPE.picture, deinterlace } };
  const given = { facts: tape, clock: clockOf(tape), portion: null, sounding: null, encoders: ['h264', 'aac'] };
  const outcome = planRendition({ ...given, recipe } as Parameters<typeof planRendition>[0]);
  if (!outcome.ok) throw new Error('Such an order is planned.');
  return { recipe, advisories: outcome.plan.advisories.filter(({ field }) => field === 'time.frameRate') };
}

const codesOf = (...given: Parameters<typeof advisedOn>) => advisedOn(...given).advisories.map(({ code }) => code);

describe('the frame rate of an interlaced programme', () => {
  it('is half of its fields, which is told where they are taken apart', () => {
    expect(codesOf('source', 'top-first')).toEqual(['fields-become-one']);
    expect(codesOf('source', null)).toEqual([]);
  });

  it('is that of its fields with one key, and then nothing is left to say', () => {
    const { recipe, advisories } = advisedOn('source', 'top-first');
    const fixed = applyFix(tape, advisories[0]!.fix!, { recipe, portion: null }).recipe;
    expect(fixed.time.frameRate).toBe('fields');
    expect(codesOf(fixed.time.frameRate, 'top-first')).toEqual([]);
  });

  it('is the same asked for by number', () => {
    expect(codesOf(rational(50, 1), 'top-first')).toEqual([]);
  });

  it('shows frames twice where there are no fields', () => {
    expect(codesOf(rational(50, 1), null)).toEqual(['motion-uneven']);
  });

  it('moves unevenly at a rate between', () => {
    expect(codesOf(rational(30, 1), 'top-first')).toEqual(['motion-uneven']);
  });
});
