import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { gaugedRate } from '../sounding/sounding.ts';
import { chooseSoundedSpans } from '../sounding/soundedSpans.ts';
import { bitsPerSecond } from '../units.ts';
import { bytesAtRate, bytesPerHour, estimateAround, uploadSeconds } from './projections.ts';
import { suggestFrameSize } from './suggestFrameSize.ts';

describe('projections', () => {
  it('turn rates and times into bytes and back', () => {
    expect(bytesAtRate(bitsPerSecond(8_000_000), 60)).toBe(60_000_000);
    expect(bytesPerHour(60_000_000, 60)).toBe(3_600_000_000);
    expect(bytesPerHour(60_000_000, 0)).toBeNull();
    expect(uploadSeconds(60_000_000, bitsPerSecond(20_000_000))).toBe(24);
  });

  it('widen a value on both sides', () => {
    expect(estimateAround(1000, 0.1, 0.25)).toEqual({ low: 900, likely: 1000, high: 1250 });
  });
});

describe('a smaller frame size', () => {
  const HD = { width: 1920, height: 1080 };

  it('is the largest common one whose floor should fit', () => {
    expect(suggestFrameSize(HD, 1_000_000, 600_000)).toEqual({ width: 1280, height: 720 });
    expect(suggestFrameSize(HD, 1_000_000, 200_000)).toEqual({ width: 640, height: 360 });
  });

  it('is never as large as the present one, and may be none', () => {
    expect(suggestFrameSize({ width: 640, height: 360 }, 1000, 1_000_000)!.height).toBeLessThan(360);
    expect(suggestFrameSize(HD, 1_000_000, 5)).toBeNull();
  });
});

describe('stretches that stand for a portion', () => {
  it('lie inside it, apart from one another, and cover little of what is long', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 0, max: 500_000 }),
        fc.integer({ min: 1, max: 500_000 }),
        fc.constantFrom(24, 25, 60),
        fc.boolean(),
        (first, frames, rate, isBusyKnown) => {
          const busyOf = ({ inFrame }: { readonly inFrame: number }) => (inFrame * 7919) % 1000;
          const span = { inFrame: first, frameCount: frames };
          const stretches = chooseSoundedSpans(span, rate, isBusyKnown ? busyOf : null);
          expect(stretches.length).toBeLessThanOrEqual(isBusyKnown ? 32 : 12);
          let end = first;
          for (const { inFrame, frameCount } of stretches.toSorted((a, b) => a.inFrame - b.inFrame)) {
            expect(inFrame).toBeGreaterThanOrEqual(end);
            end = inFrame + frameCount;
          }
          expect(end).toBeLessThanOrEqual(first + frames);
        },
      ),
      { seed: 5 },
    );
  });

  it('are as busy as the whole, where that is known: evenly spaced ones may miss what is rare', () => {
    // An hour, of which every tenth half minute is forty times as busy.
    const busyOf = ({ inFrame }: { readonly inFrame: number }) => (Math.floor(inFrame / 750) % 10 === 3 ? 40 : 1);
    const whole = { inFrame: 0, frameCount: 90_000 };
    const meanOf = (busy: typeof busyOf | null) => {
      const stretches = chooseSoundedSpans(whole, 25, busy);
      return stretches.reduce((sum, one) => sum + busyOf(one), 0) / stretches.length;
    };
    expect(Math.abs(meanOf(busyOf) / 4.9 - 1)).toBeLessThan(0.35);
    expect(Math.abs(meanOf(null) / 4.9 - 1)).toBeGreaterThan(0.45);
  });

  it('are all of a short one', () => {
    expect(chooseSoundedSpans({ inFrame: 0, frameCount: 200 }, 25, null)).toEqual([{ inFrame: 0, frameCount: 200 }]);
  });
});

describe('the rate of gauged stretches', () => {
  const still = [10_000, ...Array.from({ length: 49 }, () => 20)];

  it('counts keyframes as far apart as they will be', () => {
    // 1 of 125 frames at 10,000 bytes and the others at 20, at 25 frames a second.
    expect(gaugedRate([still, still], 25, 125, false)).toBeCloseTo((10_000 / 125 + 20 * (124 / 125)) * 8 * 25, 6);
  });

  it('is exact where all was gauged', () => {
    expect(gaugedRate([still], 25, 125, true)).toBeCloseTo(((10_000 + 980) / 50) * 8 * 25, 6);
    expect(gaugedRate([[500]], 25, 125, true)).toBe(500 * 8 * 25);
  });
});
