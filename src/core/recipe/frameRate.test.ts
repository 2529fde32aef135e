import { describe, expect, it } from 'vitest';
import type { FieldOrder } from '../geometry/preparation.ts';
import { factsOf } from '../../testing/facts.ts';
import { rational } from '../timing/rational.ts';
import { isEven, nameFrameRateChoice, resultRate, steadyRate, type FrameRateChoice, type Paced } from './frameRate.ts';

const at = (num: number, den = 1, constantRate = true) => factsOf({ frameRate: rational(num, den) }, { constantRate });

const paced = (frameRate: FrameRateChoice, deinterlace: FieldOrder | null = null): Paced => ({
  time: { frameRate },
  picture: { deinterlace },
});

describe('the rate a recipe gives a programme', () => {
  it.each<readonly [string, ReturnType<typeof at>, FrameRateChoice, ReturnType<typeof rational> | null]>([
    ['its own', at(50), 'source', null],
    ['half of it', at(60000, 1001), 'half', rational(30000, 1001)],
    ['one that is within a ceiling', at(30000, 1001), { atMost: rational(30, 1) }, null],
    ['59.94 under 60', at(60000, 1001), { atMost: rational(60, 1) }, null],
    ['every second under a ceiling', at(50), { atMost: rational(30, 1) }, rational(25, 1)],
    ['every third', at(60), { atMost: rational(25, 1) }, rational(20, 1)],
    ['every fourth', at(120), { atMost: rational(30, 1) }, rational(30, 1)],
    ['another', at(25), rational(30, 1), rational(30, 1)],
    ['its own, asked for by number', at(25), { num: 50, den: 2 }, null],
    ['a steady one in place of its own', at(25, 1, false), rational(25, 1), rational(25, 1)],
  ])('%s', (_name, facts, choice, expected) => {
    expect(resultRate(facts, paced(choice))).toEqual(expected);
  });

  it('is that of fields where they are taken apart and come evenly', () => {
    const tape = at(30000, 1001);
    expect(resultRate(tape, paced('fields', 'top-first'))).toEqual(rational(60000, 1001));
    expect(resultRate(tape, paced('fields'))).toBeNull();
    expect(resultRate(at(30, 1, false), paced('fields', 'top-first'))).toBeNull();
  });

  it('is none without a picture', () => {
    expect(resultRate({ ...at(50), video: null }, paced('half'))).toBeNull();
  });

  it('is even where frames are left out by a number', () => {
    expect(isEven(at(60000, 1001), rational(20000, 1001))).toBe(true);
    expect(isEven(at(60), rational(25, 1))).toBe(false);
    expect(isEven(at(25), rational(50, 1))).toBe(false);
    expect(isEven(at(30, 1, false), rational(30, 1))).toBe(false);
  });

  it('is steady at what the file claims, or no slower than frames come', () => {
    const varying = (claimed: ReturnType<typeof rational> | null) =>
      factsOf({ frameRate: rational(47, 2) }, { constantRate: false, claimedRate: claimed });
    expect(steadyRate(varying(rational(30, 1)))).toEqual(rational(30, 1));
    expect(steadyRate(varying(rational(90_000, 1)))).toEqual(rational(24_000, 1001));
    expect(steadyRate(varying(rational(12, 1)))).toEqual(rational(24_000, 1001));
    expect(steadyRate(varying(null))).toEqual(rational(24_000, 1001));
  });

  it('is named without a programme', () => {
    expect(nameFrameRateChoice({ atMost: rational(30, 1) })).toBe('at most 30 fps');
    expect(nameFrameRateChoice(rational(60000, 1001))).toBe('59.94 fps');
  });
});
