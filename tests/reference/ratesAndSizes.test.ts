import { describe, expect, it } from 'vitest';
import { bytesAtRate, bytesPerHour, uploadSeconds } from '../../src/core/budget/projections.ts';
import { mseToPsnr, ssimToDecibels } from '../../src/core/quality/frameQuality.ts';
import { averageRate, bitsPerSecond, bytes } from '../../src/core/units.ts';

const kbps = (value: number) => bitsPerSecond(value * 1000);

// Common practice, no source, plus arithmetic; values from memory.
describe('sizes and rates of the trade', () => {
  it('45,000 kb/s with 16-bit stereo 48 kHz PCM is 20.94 GB an hour', () => {
    expect(bytesAtRate(kbps(45_000 + 1536), 3600) / 1e9).toBeCloseTo(20.94, 2);
  });

  it('5,000 kb/s with 256 kb/s is about 2.36 GB an hour', () => {
    const aMinute = bytesAtRate(kbps(5256), 60);
    expect(bytesPerHour(aMinute, 60)! / 1e9).toBeCloseTo(2.36, 1);
  });

  it('4,000 kb/s with 128 kb/s for 3:15 to 3:20 is about 100 MB', () => {
    for (const seconds of [195, 200]) expect(Math.abs(bytesAtRate(kbps(4128), seconds) / 100e6 - 1)).toBeLessThan(0.04);
  });

  it('72 MB at 2,000 kb/s comes to about 40 MB at 1,000, sound unchanged at 128', () => {
    const seconds = (72e6 * 8) / 2_128_000;
    expect(Math.abs(bytesAtRate(kbps(1128), seconds) / 40e6 - 1)).toBeLessThan(0.06);
  });

  it('86 MB at 2.5 Mb/s with 256 kb/s comes to about 70 MB at 2.0 Mb/s', () => {
    const seconds = (86e6 * 8) / 2_756_000;
    expect(Math.abs(bytesAtRate(kbps(2256), seconds) / 70e6 - 1)).toBeLessThan(0.03);
  });

  it('halving the rate halves the file, and the rate comes back from the size', () => {
    expect(bytesAtRate(kbps(2000), 90)).toBe(2 * bytesAtRate(kbps(1000), 90));
    expect(averageRate(bytesAtRate(kbps(3000), 60), 60)).toBe(3_000_000);
  });

  it('48 MB take 19.2 s on a line of 20 Mb/s', () => {
    expect(uploadSeconds(bytes(48e6), kbps(20_000))).toBeCloseTo(19.2, 9);
  });
});

// PSNR = 10 log10(MAX²/MSE); SSIM in decibels −10 log10(1 − SSIM) (Wang, Bovik, Sheikh, Simoncelli 2004); from memory.
describe('decibels', () => {
  it('a uniform error of one 8-bit step is 48.13 dB', () => {
    expect(mseToPsnr(1, 255)).toBeCloseTo(48.13, 2);
  });

  it('SSIM 0.99 is 20 dB, and identical pictures stop at the ceiling', () => {
    expect(ssimToDecibels(0.99)).toBeCloseTo(20, 9);
    expect(ssimToDecibels(1)).toBe(100);
    expect(mseToPsnr(0, 255)).toBe(100);
  });
});
