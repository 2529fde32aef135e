import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { rational } from '../timing/rational.ts';
import { fitFrameSize, isBeyond, nameShape, SQUARE } from './frameSize.ts';

const HD = { width: 1920, height: 1080 };

describe('fitting a frame size', () => {
  it('scales into the box and keeps the shape', () => {
    expect(fitFrameSize(HD, SQUARE, { width: 1280, height: 720 })).toEqual({ width: 1280, height: 720 });
    expect(fitFrameSize(HD, SQUARE, { height: 480 })).toEqual({ width: 854, height: 480 });
    expect(fitFrameSize(HD, SQUARE, { width: 640, height: 640 })).toEqual({ width: 640, height: 360 });
  });

  it('never enlarges unless asked', () => {
    expect(fitFrameSize({ width: 640, height: 360 }, SQUARE, { height: 1080 })).toEqual({ width: 640, height: 360 });
    expect(fitFrameSize({ width: 640, height: 360 }, SQUARE, { height: 1080, enlarge: true })).toEqual(HD);
  });

  it('makes odd sizes even without leaving the box', () => {
    expect(fitFrameSize({ width: 853, height: 479 }, SQUARE, null)).toEqual({ width: 854, height: 480 });
    expect(fitFrameSize(HD, SQUARE, { width: 853 }).width).toBe(852);
  });

  // ITU-R BT.601: pixels of 720 × 576 are 64:45 for 16:9 and 16:15 for 4:3 (values from memory).
  it('makes anamorphic pictures square', () => {
    expect(fitFrameSize({ width: 720, height: 576 }, rational(64, 45), null)).toEqual({ width: 1024, height: 576 });
    expect(fitFrameSize({ width: 720, height: 576 }, rational(16, 15), null)).toEqual({ width: 768, height: 576 });
    expect(nameShape({ width: 720, height: 576 }, rational(64, 45))).toBe('16:9');
    expect(nameShape({ width: 1920, height: 804 }, SQUARE)).toBe('2.39:1');
  });

  it('is larger than the source only where it has more pixels than are stored, or shown', () => {
    const tape = { width: 720, height: 480 };
    expect(isBeyond(tape, tape, rational(8, 9))).toBe(false);
    expect(isBeyond({ width: 1024, height: 576 }, { width: 720, height: 576 }, rational(64, 45))).toBe(false);
    expect(isBeyond({ width: 800, height: 480 }, tape, rational(8, 9))).toBe(true);
  });

  it('is always even, inside the box and near the shape', () => {
    const side = fc.integer({ min: 64, max: 4096 });
    fc.assert(
      fc.property(side, side, side, side, (width, height, boxWidth, boxHeight) => {
        const size = fitFrameSize({ width, height }, SQUARE, { width: boxWidth, height: boxHeight });
        expect(size.width % 2).toBe(0);
        expect(size.height % 2).toBe(0);
        expect(size.width).toBeLessThanOrEqual(boxWidth);
        expect(size.height).toBeLessThanOrEqual(boxHeight);
        const scale = Math.min(1, boxWidth / width, boxHeight / height);
        expect(Math.abs(size.width - width * scale)).toBeLessThanOrEqual(2);
        expect(Math.abs(size.height - height * scale)).toBeLessThanOrEqual(2);
      }),
      { seed: 2 },
    );
  });
});
