import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { constantClock, listedClock } from './frameClock.ts';
import { retimedFrames, sameFrames } from './frameMap.ts';
import { rational, toNumber } from './rational.ts';

const list = (count: number, of: (frame: number) => number) => Array.from({ length: count }, (_, frame) => of(frame));

describe('frames of a result at another rate', () => {
  it('are every second at half the rate, from where the portion begins', () => {
    const rate = rational(50, 1);
    const map = retimedFrames(constantClock(rate, 200), { inFrame: 7, frameCount: 20 }, rational(25, 1), rate);
    expect(list(10, map.toSource)).toEqual([7, 9, 11, 13, 15, 17, 19, 21, 23, 25]);
    expect(map.toResult(7)).toBe(0);
    expect(map.toResult(8)).toBe(1);
    expect(map.toResult(25)).toBe(9);
  });

  it('are shown again where there are more', () => {
    const rate = rational(24, 1);
    const map = retimedFrames(constantClock(rate, 100), { inFrame: 0, frameCount: 8 }, rational(60, 1), rate);
    expect(list(12, map.toSource)).toEqual([0, 0, 0, 1, 1, 2, 2, 2, 3, 3, 4, 4]);
  });

  it('are what is on the screen, of a source whose rate varies', () => {
    const clock = listedClock([0, 0.03, 0.1, 0.13, 0.3], 0.4);
    const map = retimedFrames(clock, { inFrame: 1, frameCount: 4 }, rational(20, 1), null);
    // From 0.03 s on, every 0.05 s: at 0.03, 0.08, 0.13, 0.18, 0.23, 0.28, 0.33.
    expect(list(7, map.toSource)).toEqual([1, 1, 3, 3, 3, 3, 4]);
  });

  it('never leave what is taken, never go back, and lead to the frame they come from', () => {
    const rates = fc.constantFrom(
      ...([
        [24, 1],
        [25, 1],
        [30000, 1001],
        [50, 1],
        [60000, 1001],
        [12, 1],
      ] as const),
    );
    fc.assert(
      fc.property(rates, rates, fc.nat(40), fc.integer({ min: 1, max: 60 }), ([a, b], [c, d], inFrame, frameCount) => {
        const [from, to] = [rational(a, b), rational(c, d)];
        const map = retimedFrames(constantClock(from, 200), { inFrame, frameCount }, to, from);
        const count = Math.max(1, Math.round((frameCount * toNumber(to)) / toNumber(from)));
        const shown = list(count, map.toSource);
        expect(shown[0]).toBe(inFrame);
        expect(Math.max(...shown)).toBeLessThan(inFrame + frameCount);
        expect(shown).toEqual(shown.toSorted((one, other) => one - other));
        for (const source of new Set(shown)) expect(map.toSource(map.toResult(source))).toBe(source);
      }),
    );
  });

  it('are the same at the same rate', () => {
    const map = sameFrames(12);
    expect([map.toSource(3), map.toResult(15)]).toEqual([15, 3]);
  });
});
