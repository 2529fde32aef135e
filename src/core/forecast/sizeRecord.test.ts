import { describe, expect, it } from 'vitest';
import fc from 'fast-check';
import { SOUNDING_ERROR } from '../sounding/sounding.ts';
import { correctionOf, pictureRatio } from './sizeRecord.ts';

describe('what finished renditions say about the next of their programme', () => {
  it('is nothing while there is none', () => {
    expect(correctionOf([], 'h264')).toEqual({ factor: 1, ...SOUNDING_ERROR, results: 0 });
  });

  it('is what is left beside sound and container, where quiet sound cannot be taken for a small picture', () => {
    const file = { sounded: 1000, audio: 300, container: 20 };
    expect(pictureRatio({ ...file, bytes: 1220 })).toBe(0.9);
    // Sound that came to 110 beside a picture of 600: 390 would be left for it.
    expect(pictureRatio({ ...file, bytes: 110 + 600 + 20 })).toBeNull();
    expect(pictureRatio({ ...file, bytes: 300 })).toBeNull();
    expect(pictureRatio({ ...file, sounded: 0, bytes: 1220 })).toBeNull();
    expect(pictureRatio({ ...file, audio: 0, bytes: 25 })).toBe(0.005);
  });

  it('grows with their number, and is more of the same codec', () => {
    const of = (count: number, codec: 'h264' | 'hevc') =>
      correctionOf(
        Array.from({ length: count }, () => ({ codec, ratio: 0.75 })),
        'h264',
      );
    expect(of(1, 'hevc').factor).toBeGreaterThan(of(1, 'h264').factor);
    expect(of(1, 'h264').factor).toBeGreaterThan(of(4, 'h264').factor);
    expect(of(20, 'h264').factor).toBeCloseTo(0.75, 1);
    expect(of(4, 'h264').above).toBeLessThan(of(1, 'h264').above);
    expect(of(1, 'h264').above).toBeLessThan(0.36);
  });

  it('lies between nothing and what came out, and its range never leaves sense', () => {
    const ratio = fc.double({ min: 0.2, max: 5, noNaN: true });
    const codec = fc.constantFrom('h264' as const, 'av1' as const);
    fc.assert(
      fc.property(fc.array(fc.record({ codec, ratio }), { minLength: 1, maxLength: 20 }), (cameOut) => {
        const { factor, below, above } = correctionOf(cameOut, 'h264');
        const ratios = [1, ...cameOut.map((one) => one.ratio)];
        expect(factor).toBeGreaterThanOrEqual(Math.min(...ratios) - 1e-9);
        expect(factor).toBeLessThanOrEqual(Math.max(...ratios) + 1e-9);
        expect(below).toBeGreaterThan(0);
        expect(below).toBeLessThan(SOUNDING_ERROR.below);
        expect(above).toBeLessThan(SOUNDING_ERROR.above);
      }),
    );
  });
});
