import { describe, expect, it } from 'vitest';
import { seededRandom } from '../../testing/seededRandom.ts';
import { createPairReader } from './pairReader.ts';
import { samplesOf, type PairShape } from './samples.ts';
import { findTint, type PairMeans } from './tint.ts';
import { blockSide } from './xpsnr.ts';

/** A picture as the engine hands it over: luma by a formula, colours in the middle. */
function pictureOf(shape: PairShape, luma: (x: number, y: number) => number): Uint8Array {
  const { width, height, bitDepth } = shape;
  const { luma: count, chroma } = samplesOf(shape);
  const samples = bitDepth > 8 ? new Uint16Array(count + 2 * chroma) : new Uint8Array(count + 2 * chroma);
  samples.fill(2 ** (bitDepth - 1), count);
  for (let y = 0; y < height; y += 1) {
    for (let x = 0; x < width; x += 1) samples[y * width + x] = luma(x, y);
  }
  return new Uint8Array(samples.buffer);
}

function measure(
  shape: PairShape,
  pairs: readonly (readonly [result: Uint8Array, master: Uint8Array])[],
  piece = 4099,
) {
  const [found = []] = measureAll(shape, pairs, piece);
  return found;
}

/** Several results of each master, which comes after them. */
function measureAll(shape: PairShape, moments: readonly (readonly Uint8Array[])[], piece: number) {
  const reader = createPairReader(shape, moments[0]!.length - 1);
  for (const picture of moments.flat()) {
    for (let at = 0; at < picture.length; at += piece) {
      const bytes = picture.subarray(at, at + piece);
      reader.next().set(bytes);
      reader.took(bytes.length);
    }
  }
  return reader.finish();
}

/** The same by the formulas of the paper, sample by sample (constants from memory). */
function byFormula(shape: PairShape, result: Uint8Array, masters: readonly Uint8Array[]): number {
  const { width, height, bitDepth, framesPerSecond } = shape;
  const samples = (bytes: Uint8Array) => (bitDepth > 8 ? new Uint16Array(bytes.slice().buffer) : bytes);
  const [now, before, beforeThat] = masters.map(samples);
  const shown = samples(result);
  const side = blockSide(shape);
  const step = width * height > 2048 * 1152 ? 2 : 1;
  const at = (plane: ArrayLike<number>, x: number, y: number) => plane[y * width + x]!;
  let sum = 0;
  for (let top = 0; top < height; top += side) {
    for (let left = 0; left < width; left += side) {
      const [right, bottom] = [Math.min(width, left + side), Math.min(height, top + side)];
      let [errors, detail, seen, motion] = [0, 0, 0, 0];
      for (let y = top; y < bottom; y += 1) {
        for (let x = left; x < right; x += 1) {
          errors += (at(now!, x, y) - at(shown, x, y)) ** 2;
          if (before && framesPerSecond > 32 && beforeThat)
            motion += Math.abs(at(now!, x, y) - 2 * at(before, x, y) + at(beforeThat, x, y));
          else if (before) motion += Math.abs(at(now!, x, y) - at(before, x, y));
          if (x < step || y < step || x >= width - step || y >= height - step) continue;
          seen += 1;
          let answer = 16 * at(now!, x, y);
          for (const [down, weight] of [
            [-1, 1],
            [0, 2],
            [1, 1],
          ] as const)
            for (const [across, other] of [
              [-1, 1],
              [0, 2],
              [1, 1],
            ] as const)
              answer -= weight * other * at(now!, x + across * step, y + down * step);
          detail += Math.abs(answer);
        }
      }
      const pixels = (right - left) * (bottom - top);
      const activity = Math.max(2 ** (bitDepth - 8), (seen ? detail / (4 * seen) : 0) + (2 * motion) / pixels);
      const usual = Math.sqrt(2 ** (2 * bitDepth - 9) * Math.sqrt((3840 * 2160) / (width * height)));
      sum += (errors * usual) / activity;
    }
  }
  return sum / (width * height);
}

const SHAPES: readonly PairShape[] = [
  { width: 64, height: 36, bitDepth: 8, framesPerSecond: 25 },
  { width: 71, height: 45, bitDepth: 8, framesPerSecond: 50 },
  { width: 101, height: 33, bitDepth: 10, framesPerSecond: 59.94 },
  { width: 2060, height: 1154, bitDepth: 10, framesPerSecond: 24 },
];

describe('errors weighted by what the eye sees', () => {
  it.each(SHAPES)(
    'are what the formulas give, at $width × $height of $bitDepth bits and $framesPerSecond fps',
    (shape) => {
      const random = seededRandom(7);
      const most = 2 ** shape.bitDepth - 1;
      const masters = [0, 1, 2].map((frame) =>
        pictureOf(shape, (x, y) =>
          Math.min(most, Math.floor(((x * 3 + y * 5 + frame * 40) % 97) + random() * most * 0.6)),
        ),
      );
      const results = masters.map(() => pictureOf(shape, (x, y) => (x * 7 + y * 3) % (most + 1)));
      const measured = measure(
        shape,
        masters.map((master, index) => [results[index]!, master]),
      );
      expect(measured).toHaveLength(3);
      measured.forEach(({ mseWeighted }, index) => {
        const seen = masters.slice(0, index + 1).toReversed();
        expect(mseWeighted / byFormula(shape, results[index]!, seen)).toBeCloseTo(1, 9);
      });
    },
  );

  it('of several results are what each has by itself', () => {
    const shape = SHAPES[1]!;
    const random = seededRandom(5);
    const some = () => pictureOf(shape, (x) => 40 + (x % 30) + Math.floor(random() * 40));
    const moments = Array.from({ length: 5 }, () => [some(), some(), some(), some()] as const);
    const alone = [0, 1, 2].map((at) =>
      measure(
        shape,
        moments.map((pictures) => [pictures[at]!, pictures[3]]),
      ),
    );
    expect(measureAll(shape, moments, 4099)).toEqual(alone);
  });

  it('count sixteenfold on a flat picture of 1920 × 1080: worked by hand from the constants', () => {
    const shape = { width: 1920, height: 1080, bitDepth: 8, framesPerSecond: 25 };
    const [flat, off] = [pictureOf(shape, () => 100), pictureOf(shape, () => 101)];
    expect(measure(shape, [[off, flat]], 1_000_003)[0]?.mseWeighted).toBeCloseTo(16, 9);
  });

  it('count less where it is busy, and less again where it moves', () => {
    const shape = SHAPES[0]!;
    const busy = (shift: number) => pictureOf(shape, (x, y) => 60 + (((x + shift) * 37 + y * 61) % 90));
    const off = (shift: number) => pictureOf(shape, (x, y) => 61 + (((x + shift) * 37 + y * 61) % 90));
    const flat = measure(shape, [[pictureOf(shape, () => 101), pictureOf(shape, () => 100)]])[0]!.mseWeighted;
    const [still, moving] = measure(shape, [
      [off(0), busy(0)],
      [off(9), busy(9)],
    ]).map(({ mseWeighted }) => mseWeighted);
    expect(still!).toBeLessThan(flat / 10);
    expect(moving!).toBeLessThan(still!);
  });

  it('are taken in blocks of 128 at 3840 × 2160, and in proportion below', () => {
    expect([blockSide({ width: 3840, height: 2160 }), blockSide({ width: 1920, height: 1080 })]).toEqual([128, 64]);
  });
});

describe('errors that count all alike', () => {
  it.each(SHAPES)('are squares by arithmetic, at $width × $height of $bitDepth bits', (shape) => {
    const random = seededRandom(11);
    const { luma, chroma } = samplesOf(shape);
    const some = () => {
      const picture = pictureOf(shape, () => Math.floor(random() * 2 ** shape.bitDepth));
      const samples = shape.bitDepth > 8 ? new Uint16Array(picture.buffer) : picture;
      for (let at = luma; at < samples.length; at += 1) samples[at] = Math.floor(random() * 2 ** shape.bitDepth);
      return { picture, samples };
    };
    const [result, master] = [some(), some()];
    const squares = (from: number, to: number) => {
      let sum = 0;
      for (let at = from; at < to; at += 1) sum += (result.samples[at]! - master.samples[at]!) ** 2;
      return sum;
    };
    const [{ mseLuma, mseAll } = { mseLuma: 0, mseAll: 0 }] = measure(
      shape,
      [[result.picture, master.picture]],
      1_000_003,
    );
    expect(mseLuma).toBeCloseTo(squares(0, luma) / luma, 9);
    expect(mseAll).toBeCloseTo(squares(0, luma + 2 * chroma) / (luma + 2 * chroma), 9);
  });
});

/** SSIM of one plane by the formula of the paper, window by window, with variances of 64 samples without bias. */
function ssimByFormula(
  a: ArrayLike<number>,
  b: ArrayLike<number>,
  width: number,
  height: number,
  peak: number,
): number {
  const [c1, c2] = [(0.01 * peak) ** 2, (0.03 * peak) ** 2];
  let [sum, windows] = [0, 0];
  for (let top = 0; top + 8 <= height; top += 4) {
    for (let left = 0; left + 8 <= width; left += 4) {
      let [sumA, sumB, squareA, squareB, product] = [0, 0, 0, 0, 0];
      for (let y = top; y < top + 8; y += 1) {
        for (let x = left; x < left + 8; x += 1) {
          const [one, other] = [a[y * width + x]!, b[y * width + x]!];
          sumA += one;
          sumB += other;
          squareA += one * one;
          squareB += other * other;
          product += one * other;
        }
      }
      const [meanA, meanB] = [sumA / 64, sumB / 64];
      const spread = (squareA - 64 * meanA * meanA + squareB - 64 * meanB * meanB) / 63;
      const shared = (product - 64 * meanA * meanB) / 63;
      sum += ((2 * meanA * meanB + c1) * (2 * shared + c2)) / ((meanA ** 2 + meanB ** 2 + c1) * (spread + c2));
      windows += 1;
    }
  }
  return sum / windows;
}

describe('likeness', () => {
  it.each(SHAPES)('is what the formula gives, at $width × $height of $bitDepth bits', (shape) => {
    const random = seededRandom(13);
    const most = 2 ** shape.bitDepth - 1;
    const master = pictureOf(shape, (x, y) => Math.floor(((x * 5 + y * 3) % 60) + random() * most * 0.7));
    const result = pictureOf(shape, (x, y) => Math.floor(((x * 5 + y * 3) % 64) + random() * most * 0.7));
    const samples = (picture: Uint8Array) => (shape.bitDepth > 8 ? new Uint16Array(picture.buffer) : picture);
    const [found] = measure(shape, [[result, master]], 1_000_003);
    const expected = ssimByFormula(samples(result), samples(master), shape.width, shape.height, most);
    expect(found!.ssimLuma).toBeCloseTo(expected, 5);
    // Colours are the same in both.
    const { luma, chroma } = samplesOf(shape);
    expect(found!.ssimAll).toBeCloseTo((expected * luma + 2 * chroma) / (luma + 2 * chroma), 5);
    expect(measure(shape, [[master, master]], 1_000_003)[0]).toMatchObject({ ssimLuma: 1, ssimAll: 1 });
  });
});

describe('banding', () => {
  const shape = { width: 640, height: 360, bitDepth: 8, framesPerSecond: 25 };
  const sky = (x: number, y: number) => 60 + Math.floor(x / 5) + (y % 2);
  it('is found where a gradient lost its levels', () => {
    const found = measure(shape, [
      [pictureOf(shape, (x, y) => Math.floor(sky(x, y) / 6) * 6), pictureOf(shape, sky)],
    ])[0]!;
    expect(found.banding.smooth).toBeGreaterThan(found.banding.areas * 0.95);
    expect(found.banding.banded).toBeGreaterThan(found.banding.areas * 0.9);
  });

  it('is not found where the gradient is kept, nor in noise', () => {
    const random = seededRandom(3);
    const noise = () => 60 + Math.floor(random() * 90);
    const kept = measure(shape, [[pictureOf(shape, (x, y) => sky(x, y) + 1), pictureOf(shape, sky)]])[0]!;
    expect(kept.banding.banded).toBe(0);
    expect(measure(shape, [[pictureOf(shape, () => 90), pictureOf(shape, noise)]])[0]!.banding.smooth).toBe(0);
  });
});

describe('tint', () => {
  const masters = [
    { y: 80, cb: 110, cr: 150 },
    { y: 140, cb: 150, cr: 100 },
  ];
  const tinted = (change: (means: PairMeans['master']) => PairMeans['master']) =>
    findTint(
      masters.map((master) => ({ master, result: change(master) })),
      'bt709',
    );

  it('is nothing within a step', () => {
    const { cause, ...shift } = tinted(({ y, cb, cr }) => ({ y: y + 0.5, cb, cr }));
    expect(cause).toBeNull();
    expect(shift.red).toBeCloseTo((0.5 * 255) / 219, 9);
    expect(shift.green).toBeCloseTo(shift.blue, 9);
  });

  it('is told with its likely cause', () => {
    const full = tinted(({ y, cb, cr }) => ({
      y: ((y - 16) * 255) / 219,
      cb: 128 + ((cb - 128) * 255) / 224,
      cr: 128 + ((cr - 128) * 255) / 224,
    }));
    expect(full.cause).toBe('full-as-limited');
    const odd = tinted(({ y, cb, cr }) => ({ y: y - 9, cb: cb + 7, cr: cr - 8 }));
    expect(odd.cause).toBeNull();
    expect(odd.red).toBeLessThan(-10);
  });
});
