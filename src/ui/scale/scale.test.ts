import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { RenditionSummary } from '../../contract/views.ts';
import { curvesOf } from './curves.ts';
import { evenTicks, qualityTicks } from './evenTicks.ts';

describe('ticks of an axis', () => {
  it('are round', () => {
    expect(evenTicks(0, 47_000_000, 5)).toEqual([0, 10e6, 20e6, 30e6, 40e6, 50e6]);
    expect(evenTicks(0.941, 0.988, 5)).toEqual([0.94, 0.95, 0.96, 0.97, 0.98, 0.99]);
    expect(evenTicks(1, 1, 4).length).toBeGreaterThanOrEqual(2);
  });

  it('of qualities are a decibel apart at least', () => {
    expect(qualityTicks([17.7561], 5)).toEqual([17.2, 17.4, 17.6, 17.8, 18, 18.2, 18.4]);
    expect(qualityTicks([12, 19], 5)).toEqual(evenTicks(12, 19, 5));
  });

  it('stand at even distances and span what they should', () => {
    const value = fc.double({ min: -1e9, max: 1e9, noNaN: true });
    fc.assert(
      fc.property(value, value, fc.integer({ min: 2, max: 9 }), (a, b, about) => {
        const [least, most] = [Math.min(a, b), Math.max(a, b)];
        const ticks = evenTicks(least, most, about);
        const step = ticks[1]! - ticks[0]!;
        expect(ticks.length).toBeLessThanOrEqual(2 * about + 3);
        ticks.forEach((tick, index) =>
          expect(Math.abs(tick - ticks[0]! - index * step)).toBeLessThanOrEqual(step * 1e-3),
        );
        expect(ticks[0]!).toBeLessThanOrEqual(least + step * 1e-3);
        expect(ticks.at(-1)!).toBeGreaterThanOrEqual(most - step * 1e-3);
      }),
      { seed: 11 },
    );
  });
});

describe('curves', () => {
  const made = (bytes: number, changes: Partial<RenditionSummary> = {}, preparation = '') =>
    ({
      id: String(bytes),
      name: 'x',
      bytes,
      portion: null,
      portionName: null,
      quality: { ssim: { mean: 0.95 } },
      outline: { codec: 'h264', width: 640, height: 360 },
      preparation,
      ...changes,
    }) as unknown as RenditionSummary;

  it('join only what is of one portion and one crop, in order of size', () => {
    const portion = { inFrame: 10, outFrame: 20 };
    const curves = curvesOf([
      made(3000),
      made(1000),
      made(500, { portion, portionName: 'Start' }),
      made(2000, {}, 'crop 2 2 0 0'),
    ]);
    expect([...curves].map(([name, marks]) => [name, marks.map(({ bytes }) => bytes)])).toEqual([
      ['H.264, 640 × 360, the whole', [1000, 3000]],
      ['H.264, 640 × 360, Start (10 to 20)', [500]],
      ['H.264, 640 × 360, crop 2 2 0 0, the whole', [2000]],
    ]);
  });
});
