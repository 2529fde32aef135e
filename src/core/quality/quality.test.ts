import { describe, expect, it } from 'vitest';
import { suggestFrameSize } from '../budget/suggestFrameSize.ts';
import { chooseStretches } from '../rate/stretches.ts';
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

describe('stretches', () => {
  it('take a short programme whole', () => {
    expect(chooseStretches(200, 25)).toEqual([{ inFrame: 0, frameCount: 200 }]);
  });

  it('lie apart and inside a long one', () => {
    const stretches = chooseStretches(270_000, 25);
    expect(stretches).toHaveLength(12);
    stretches.forEach((stretch, index) => {
      expect(stretch.frameCount).toBe(50);
      expect(stretch.inFrame).toBeGreaterThanOrEqual(0);
      expect(stretch.inFrame + 50).toBeLessThanOrEqual(stretches[index + 1]?.inFrame ?? 270_000);
    });
  });
});

describe('a smaller frame size', () => {
  it('is the largest common one whose floor should fit', () => {
    expect(suggestFrameSize({ width: 1280, height: 720 }, 400_000, 300_000)).toEqual({ width: 960, height: 540 });
    expect(suggestFrameSize({ width: 1280, height: 720 }, 400_000, 130_000)).toEqual({ width: 640, height: 360 });
    expect(suggestFrameSize({ width: 1280, height: 720 }, 400_000, 1000)).toBeNull();
  });
});
