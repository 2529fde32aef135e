import { describe, expect, it } from 'vitest';
import { summariseQuality } from './frameQuality.ts';
import { colourDistance, meanColour } from './meanColour.ts';

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
