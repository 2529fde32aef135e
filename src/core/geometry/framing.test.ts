import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { rational, toNumber } from '../timing/rational.ts';
import {
  atFrameSize,
  atLines,
  atMostFrame,
  cutToFill,
  framedBy,
  framedSize,
  insideOf,
  largestFilled,
  smallestHolding,
} from './framing.ts';
import { SQUARE } from './frameSize.ts';
import { croppedSize, TURNS, turnedSize } from './preparation.ts';

const HD = { width: 1920, height: 1080 };
const UPRIGHT = { width: 1080, height: 1920 };
const AS_IT_COMES = { crop: null, rotate: 0, fit: null, fill: null, pad: null } as const;

const side = fc.integer({ min: 64, max: 4096 });
const even = side.map((pixels) => 2 * Math.ceil(pixels / 2));
const size = fc.record({ width: even, height: even });

describe('a frame that is filled or padded', () => {
  it('has its own size, made even, whatever the source is', () => {
    expect(framedSize(HD, SQUARE, { ...AS_IT_COMES, fill: { width: 1081, height: 1920 } })).toEqual(UPRIGHT);
    expect(framedSize(HD, SQUARE, { ...AS_IT_COMES, pad: { ...UPRIGHT, with: 'blur' } })).toEqual(UPRIGHT);
    expect(framedSize(HD, SQUARE, { ...AS_IT_COMES, rotate: 90, fit: { height: 960 } })).toEqual({
      width: 540,
      height: 960,
    });
  });

  it('is cut in its own shape, from the middle outwards, on even edges', () => {
    expect(cutToFill(HD, SQUARE, { ...AS_IT_COMES, fill: UPRIGHT })).toEqual({
      ...{ top: 0, bottom: 0 },
      // 1080 × 9 / 16 are 607.5 columns.
      ...{ left: 656, right: 656 },
    });
    expect(cutToFill(HD, SQUARE, { ...AS_IT_COMES, fill: { width: 1280, height: 720 } })).toBeNull();
    // Whatever is asked, something is left.
    const thread = { width: 8192, height: 16 };
    expect(croppedSize(HD, cutToFill(HD, SQUARE, { ...AS_IT_COMES, fill: thread })).height).toBe(4);
    const small = { width: 160, height: 90 };
    expect(croppedSize(small, cutToFill(small, SQUARE, { ...AS_IT_COMES, fill: thread })).height).toBe(2);
    fc.assert(
      fc.property(size, size, fc.constantFrom(...TURNS), (source, fill, rotate) => {
        const crop = cutToFill(source, SQUARE, { ...AS_IT_COMES, rotate, fill });
        const left = turnedSize(croppedSize(source, crop), rotate);
        const wanted = fill.width / fill.height;
        const off = Math.min(Math.abs(left.width - left.height * wanted), Math.abs(left.height - left.width / wanted));
        expect(off).toBeLessThanOrEqual(1 + 1e-9);
        for (const edge of Object.values(crop ?? {}) as number[]) expect(edge % 2).toBe(0);
      }),
    );
  });

  it('takes what pixels that are not square are worth', () => {
    // 16:9 in 720 × 576: 64:45 (ITU-R BT.601); a square of it is 405 columns wide.
    const tape = { width: 720, height: 576 };
    const crop = cutToFill(tape, rational(64, 45), { ...AS_IT_COMES, fill: { width: 576, height: 576 } });
    expect(croppedSize(tape, crop)).toEqual({ width: 404, height: 576 });
  });

  it('holds a whole picture that touches two sides of it', () => {
    fc.assert(
      fc.property(size, size, (frame, picture) => {
        const inside = insideOf(frame, picture, SQUARE);
        expect(inside.width === frame.width || inside.height === frame.height).toBe(true);
        expect(inside.width <= frame.width && inside.height <= frame.height).toBe(true);
      }),
    );
  });

  it('of a shape is the largest that is filled, or the smallest that holds the picture', () => {
    const shape = rational(9, 16);
    expect(largestFilled(HD, shape)).toEqual({ width: 608, height: 1080 });
    expect(smallestHolding(HD, shape)).toEqual({ width: 1920, height: 3414 });
    expect(largestFilled(UPRIGHT, shape)).toEqual(UPRIGHT);
    fc.assert(
      fc.property(size, fc.constantFrom(rational(1, 1), shape, rational(16, 9), rational(4, 5)), (picture, wanted) => {
        const [filled, holding] = [largestFilled(picture, wanted), smallestHolding(picture, wanted)];
        expect(filled.width <= picture.width && filled.height <= picture.height).toBe(true);
        expect(holding.width >= picture.width && holding.height >= picture.height).toBe(true);
        for (const frame of [filled, holding]) {
          const off = Math.abs(frame.width - frame.height * toNumber(wanted));
          expect(off).toBeLessThanOrEqual(4);
        }
      }),
    );
  });
});

describe('another size of the same framing', () => {
  const padded = framedBy(AS_IT_COMES, { pad: { ...UPRIGHT, with: '#102030' } });

  it('keeps what it is framed by', () => {
    expect(atFrameSize(padded, { width: 540, height: 960 }).pad).toEqual({ width: 540, height: 960, with: '#102030' });
    expect(atLines(framedBy(AS_IT_COMES, { fill: UPRIGHT }), 960).fill).toEqual({ width: 540, height: 960 });
    expect(atLines(AS_IT_COMES, 960)).toEqual({ ...AS_IT_COMES, fit: { height: 960 } });
  });

  it('lies in a box, in its shape', () => {
    expect(atMostFrame(padded, { width: 720, height: 8192 }).pad).toMatchObject({ width: 720, height: 1280 });
    expect(atMostFrame(padded, { width: 8192, height: 8192 })).toEqual(padded);
    expect(atMostFrame(AS_IT_COMES, HD)).toEqual(AS_IT_COMES);
  });

  it('is one at a time', () => {
    expect(framedBy(padded, { fill: HD })).toEqual({ ...AS_IT_COMES, fill: HD });
  });
});
