import { describe, expect, it } from 'vitest';
import { pool, poolScenes } from './closerLook.ts';
import { summariseQuality } from './frameQuality.ts';
import { colourDistance, meanColour } from './meanColour.ts';
import { explainBanding, explainTint } from './sayQuality.ts';

const frame = (ssim: number, mse: number) => ({ ssimLuma: ssim, ssimAll: ssim, mseLuma: mse, mseAll: mse });

describe('a summary', () => {
  it('averages SSIM over frames and PSNR over errors, and names the worst of each', () => {
    const summary = summariseQuality([frame(0.99, 1), frame(0.9, 2), frame(0.95, 9)], 255);
    expect(summary.ssim).toMatchObject({ low: 0.9, lowFrame: 1 });
    expect(summary.ssim.mean).toBeCloseTo(0.9467, 4);
    expect(summary.psnr.lowFrame).toBe(2);
    expect(summary.psnr.mean).toBeCloseTo(10 * Math.log10((255 * 255) / 4), 9);
  });

  it('names the first of equal lows, and does not mind hours of frames', () => {
    const frames = Array.from({ length: 300_000 }, () => frame(0.9, 4));
    expect(summariseQuality(frames, 255).ssim.lowFrame).toBe(0);
  });

  it('needs a frame', () => {
    expect(() => summariseQuality([], 255)).toThrow(RangeError);
  });
});

describe('mean colour', () => {
  it('is told apart by its largest difference', () => {
    expect(meanColour(new Uint8Array([10, 20, 30, 30, 40, 50]))).toEqual([20, 30, 40]);
    expect(colourDistance([20, 30, 40], [21, 25, 40])).toBe(5);
  });
});

describe('pooled numbers', () => {
  const frames = [0.99, 0.9, 0.95].map((ssim) => ({ ...frame(ssim, 4), mseWeighted: 2 }));
  it('are of the same decibels, and bad frames weigh more in the harmonic mean', () => {
    const { mean, harmonic, low, lowFrame } = pool(frames, 'ssim', 255)!;
    const decibels = [20, 10, 13.0103];
    expect(mean).toBeCloseTo(-10 * Math.log10(1 - (0.99 + 0.9 + 0.95) / 3), 6);
    expect(harmonic).toBeCloseTo(3 / decibels.reduce((sum, value) => sum + 1 / value, 0), 4);
    expect([low, lowFrame]).toEqual([expect.closeTo(10, 6), 1]);
    expect(pool(frames, 'xpsnr', 255)!.mean).toBeCloseTo(10 * Math.log10((255 * 255) / 2), 9);
  });

  it('are none where the measure was not taken', () => {
    expect(pool([frame(0.9, 1)], 'xpsnr', 255)).toBeNull();
  });

  it('are told by scene, whatever portion the scenes were found in', () => {
    const scenes = poolScenes(frames, [-4, 0, 1, 7], 255);
    expect(scenes.map(({ inFrame, outFrame }) => [inFrame, outFrame])).toEqual([
      [0, 0],
      [1, 2],
    ]);
    expect(scenes[0]?.ssim).toBeCloseTo(20, 6);
  });
});

describe('words', () => {
  it('tell a tint with its cause, and none within a step', () => {
    expect(explainTint({ red: 0.4, green: -0.9, blue: 0, cause: null })).toBeNull();
    expect(explainTint({ red: 3.26, green: -2, blue: 0.1, cause: 'other-matrix' })).toMatch(
      /red \+3\.3, green −2\.0 of/,
    );
  });

  it('tell banding where it is noticed', () => {
    expect(explainBanding({ smooth: 0.4, banded: 0.02, frame: 0 })).toBeNull();
    expect(explainBanding({ smooth: 0.4, banded: 0.2, frame: 0 })).toMatch(/^Banding: in 50 % .* 40 % of the picture/);
  });
});
