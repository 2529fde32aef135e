import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { RATED } from '../video/codecs.ts';
import { dialOf, positionOf, qualityAt } from './dial.ts';

const scale = RATED.vp9.quality;
const qualities = dialOf({ by: 'qualities', scale });
const rates = dialOf({ by: 'rates', scale: RATED.h264.quality });
const at = (quality: number) => positionOf(scale, quality);

describe('a dial', () => {
  it('rises with the size: a coarser quality stands lower', () => {
    expect(at(40)).toBeLessThan(at(39));
    for (let quality = 0; quality <= scale.worst; quality += 1) expect(qualityAt(scale, at(quality))).toBe(quality);
  });

  it('takes the next finer or coarser quality where the nearest was tried, on the side that is wanted', () => {
    const between = Math.sqrt(at(45) * at(46));
    expect(qualityAt(scale, qualities.untried(between, [at(45)])!)).toBe(46);
    expect(qualityAt(scale, qualities.untried(between, [at(46)])!)).toBe(45);
    expect(qualities.untried(between, [at(45), at(46)])).toBeNull();
  });

  it('goes no further than there is use for', () => {
    expect(qualityAt(scale, qualities.untried(1e9, [])!)).toBe(scale.finestSensible);
    expect(qualityAt(scale, qualities.untried(1e-9, [])!)).toBe(scale.worst);
    expect(qualities.untried(1e9, [at(scale.finestSensible)])).toBeNull();
    expect(rates.untried(1, [])).toBe(1000);
  });

  it('never gives a rate that was tried', () => {
    const rate = fc.integer({ min: 1, max: 60 }).map((steps) => steps * 1000);
    fc.assert(
      fc.property(fc.array(rate, { maxLength: 12 }), fc.integer({ min: 1, max: 70_000 }), (tried, wanted) => {
        const next = rates.untried(wanted, tried);
        if (next !== null) expect(tried).not.toContain(next);
      }),
      { seed: 5 },
    );
  });
});
