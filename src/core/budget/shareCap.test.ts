import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { shareCap } from './shareCap.ts';

describe('a cap that is shared', () => {
  const sharer = fc.record({ beside: fc.integer({ min: 0, max: 5000 }), scale: fc.integer({ min: 1, max: 1e6 }) });
  it('is never gone over, and no file is worse than another: one more byte for any would lift its level alone', () => {
    fc.assert(
      fc.property(fc.array(sharer, { minLength: 1, maxLength: 12 }), fc.integer({ min: 1, max: 1e8 }), (made, cap) => {
        const sharers = made.map(({ beside, scale }) => ({
          besideBytes: beside,
          bytesAt: (level: number) => scale * Math.exp(level),
        }));
        const shared = shareCap(cap, sharers, [-3, 3]);
        if (!shared.ok) {
          expect(shared.least).toBeGreaterThan(cap);
          return;
        }
        const sum = shared.bytes.reduce((total, bytes) => total + bytes, 0);
        expect(sum).toBeLessThanOrEqual(cap);
        const levels = made.map(({ beside, scale }, index) => Math.log((shared.bytes[index]! + 1 - beside) / scale));
        expect(Math.min(...levels)).toBeGreaterThanOrEqual(shared.level - 1e-9);
        // All of it is used, but for rounding and the step that levels are found to.
        if (shared.level < 3) expect(sum).toBeGreaterThan(cap * (1 - 1e-4) - made.length);
      }),
    );
  });

  it('goes to what has a picture to choose for, and pays for the others first', () => {
    const sharers = [
      { besideBytes: 300, bytesAt: null },
      { besideBytes: 0, bytesAt: (level: number) => 100 * level },
      { besideBytes: 0, bytesAt: (level: number) => 300 * level },
    ];
    expect(shareCap(1100, sharers, [0, 10])).toEqual({ ok: true, level: expect.closeTo(2, 1), bytes: [300, 200, 600] });
    expect(shareCap(299, sharers, [0, 10])).toEqual({ ok: false, least: 300 });
  });
});
