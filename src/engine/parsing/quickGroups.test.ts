import { describe, expect, it } from 'vitest';
import { createQuickGroupReader } from './quickGroups.ts';

/** A line as the measuring encoder's log of debugging has it. */
const frame = (who: string, number: number, size: number, psnr: string, ssim: string) =>
  `[libx264 @ ${who}] frame=${String(number).padStart(4)} QP=16.49 NAL=3 Slice:I Poc:0   I:240  P:0    SKIP:0    size=${size} bytes PSNR Y:${psnr} U:50.00 V:50.00 SSIM Y:${ssim}`;

describe('what two quick encodes tell of their groups', () => {
  it('is added up by groups, the encode that took more first', () => {
    const reader = createQuickGroupReader({ keyframeInterval: 2, lead: 0 });
    const sizes = { coarse: [40, 10, 30], fine: [100, 20, 80] };
    for (const [who, list] of Object.entries(sizes)) {
      list.forEach((size, number) => expect(reader.read(frame(`0x${who}`, number, size, '48.13', '0.99'))).toBe(true));
    }
    const [fine, coarse] = reader.finish();
    expect(fine.map(({ bytes }) => bytes)).toEqual([120, 80]);
    expect(coarse.map(({ bytes }) => bytes)).toEqual([50, 30]);
    expect(fine[0]!.ssimLoss).toBeCloseTo(0.01, 9);
    // One 8-bit step everywhere is 48.13 dB.
    expect(fine[0]!.mse).toBeCloseTo(1, 2);
  });

  it('takes a perfect frame for one that all but is', () => {
    const reader = createQuickGroupReader({ keyframeInterval: 1, lead: 0 });
    reader.read(frame('0xa', 0, 9, 'inf', '1.00000'));
    reader.read(frame('0xb', 0, 5, '40.00', '0.90000'));
    const [[perfect]] = reader.finish();
    expect(perfect!.mse).toBeGreaterThan(0);
    expect(perfect!.ssimLoss).toBeGreaterThan(0);
  });

  it('lets chatter go and keeps what went wrong', () => {
    const { read } = createQuickGroupReader({ keyframeInterval: 1, lead: 0 });
    expect(read('[AVFilterGraph @ 0x5] query_formats: 9 queried')).toBe(true);
    expect(read('[mov,mp4 @ 0x7] error reading header')).toBe(false);
    expect(read('film.mov: Invalid data found when processing input')).toBe(false);
  });

  it('is not told of encodes that do not match', () => {
    const reader = createQuickGroupReader({ keyframeInterval: 1, lead: 0 });
    reader.read(frame('0xa', 0, 9, '40.00', '0.9'));
    expect(() => reader.finish()).toThrow(/two encodes/);
  });
});
