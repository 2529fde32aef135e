import { describe, expect, it } from 'vitest';
import { plainVideo, atQuality, STARTING_RECIPE, type RateChoice } from '../../core/recipe/recipe.ts';
import { lowestPerPart, parseQualityRows } from '../desk/qualityRows.ts';
import { describeRecipe } from '../../core/recipe/describeRecipe.ts';
import { writeSize } from '../../core/text.ts';
import { formatBytes, formatLength, formatRate, formatRatio, formatWait, parseRate, parseSize } from './format.ts';

describe('numbers as they are written', () => {
  it.each([
    [999, '999 B'],
    [12_345, '12.3 kB'],
    [480_000, '480 kB'],
    [999_400, '999 kB'],
    [1_480_000, '1.48 MB'],
    [48_000_000, '48.0 MB'],
    [150_000_000, '150 MB'],
    [20_940_000_000, '20.94 GB'],
  ])('%i bytes are %s', (value, text) => {
    expect(formatBytes(value)).toBe(text);
  });

  it('rates, lengths, waits and ratios carry their units', () => {
    expect([formatRate(128_000), formatRate(24_200_000)]).toEqual(['128 kb/s', '24.2 Mb/s']);
    expect([formatLength(36), formatLength(3723)]).toEqual(['0:36', '1:02:03']);
    expect([formatWait(0.2), formatWait(59.6), formatWait(600), formatWait(7200)]).toEqual([
      'under 1 s',
      '60 s',
      '10 min',
      '2.0 h',
    ]);
    expect([formatRatio(100, 10), formatRatio(90, 20)]).toEqual(['10 : 1', '4.5 : 1']);
  });
});

describe('sizes as they are typed', () => {
  it.each([
    ['48 MB', 48_000_000],
    ['48', 48_000_000],
    ['1.2 GB', 1_200_000_000],
    ['1,5mb', 1_500_000],
    ['700 MiB', 734_003_200],
    ['900kB', 900_000],
    ['1 bytes', 1],
    ['1.2G', 1_200_000_000],
    ['900k', 900_000],
    ['700Mi', 734_003_200],
  ])('%s', (text, value) => {
    expect(parseSize(text)).toBe(value);
  });

  it.each(['', 'MB', '-3 MB', '4 MX', '1..2 MB', 'many'])('%j is none', (text) => {
    expect(parseSize(text)).toBeNull();
  });

  it('read back as what was written', () => {
    for (const value of [1, 999, 600_000, 1_234_000, 48_000_000, 734_003_200])
      expect(parseSize(writeSize(value))).toBe(value);
  });
});

describe('rates as they are typed', () => {
  it.each([
    ['4M', 4_000_000],
    ['4000k', 4_000_000],
    ['4 Mb/s', 4_000_000],
    ['4000', 4_000_000],
    ['4,000 kb/s', 4_000_000],
    ['4.5 Mbps', 4_500_000],
    ['4,5 Mbit/s', 4_500_000],
    ['128 kbit/s', 128_000],
  ])('%s', (text, value) => {
    expect(parseRate(text)).toBe(value);
  });

  it.each(['', 'k', '4 X', '4 MB/m', '1..2M', '-3', '4 MiB/s'])('%j is none', (text) => {
    expect(parseRate(text)).toBeNull();
  });
});

describe('the order line as text', () => {
  const say = (rate: RateChoice) =>
    describeRecipe({ ...STARTING_RECIPE, video: plainVideo('hevc', rate, 'fast') }, { width: 1280, height: 720 });

  it('says what is held to', () => {
    expect(say({ mode: 'size', bytes: 48_000_000 })).toBe('HEVC, 1280 × 720, filling 48 MB, AAC stereo at 128 kb/s');
    expect(say({ mode: 'average', kbps: 2500, passes: 1 })).toContain('averaging 2,500 kb/s in one pass');
    expect(say(atQuality(23))).toContain('at constant quality 23');
    expect(describeRecipe({ ...STARTING_RECIPE, video: null }, null)).toContain('sound only');
  });
});

describe('the quality strip', () => {
  it('never hides a bad frame between two pixels', () => {
    const values = Array.from({ length: 1000 }, () => 0.99);
    values[637] = 0.2;
    const parts = lowestPerPart(values, 80);
    expect(parts).toHaveLength(80);
    // Part 51 of 80 holds frames 637 to 649.
    expect(parts.indexOf(0.2)).toBe(51);
    expect(parts.filter((value) => value < 0.9)).toHaveLength(1);
  });

  it('stretches few frames over many pixels', () => {
    expect(lowestPerPart([0.5, 1], 4)).toEqual([0.5, 0.5, 1, 1]);
  });

  it('reads the columns by name', () => {
    expect(parseQualityRows('frame,ssim_y,ssim_all,psnr_y,psnr_all\n0,0.9,0.8,40,41\n1,1,1,100,100\n')).toEqual({
      ssim: [expect.closeTo(6.99, 2), 100],
      psnr: [41, 100],
      xpsnr: [],
    });
  });
});
