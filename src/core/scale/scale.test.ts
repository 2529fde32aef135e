import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { withForecasts } from './between.ts';
import { bestUnder, envelopeOf, kneeOf, smallestAtLeast, withinTime } from './best.ts';
import { rateDelta } from './bjontegaard.ts';
import { atBytes, atValue, inOrder, type ScaleCurve, type ScalePoint } from './curve.ts';
import { explainBest } from './explain.ts';

/** A curve that rises by so many decibels for each doubling, up to a ceiling. */
function curveOf(
  codec: ScaleCurve['codec'],
  height: number,
  valueAt: (bytes: number) => number,
  sizes = [1e6, 2e6, 4e6, 8e6, 16e6],
): ScaleCurve {
  const points = sizes.map((bytes, index): ScalePoint => ({
    quality: 40 - 5 * index,
    bytes,
    low: bytes * 0.95,
    high: bytes * 1.05,
    value: valueAt(bytes),
    tail: null,
    kind: 'tried',
  }));
  return { codec, width: (height * 16) / 9, height, workSeconds: null, points };
}

const doubling = (start: number, step: number) => (bytes: number) => start + step * Math.log2(bytes / 1e6);
const LARGE = curveOf('h264', 1080, doubling(8, 3));
const SMALL = curveOf('h264', 720, doubling(11, 1.5));

describe('a curve', () => {
  it('is straight in the logarithm where its points are', () => {
    expect(atBytes(LARGE, 3e6)?.value).toBeCloseTo(8 + 3 * Math.log2(3), 6);
    expect(atBytes(LARGE, 3e6)?.quality).toBeCloseTo(40 - 5 * Math.log2(3), 6);
    expect(atValue(LARGE, 12.5)?.bytes).toBeCloseTo(1e6 * 2 ** 1.5, -1);
  });

  it('says nothing below its coarsest point, and no more than its finest', () => {
    expect(atBytes(LARGE, 0.9e6)).toBeNull();
    expect(atBytes(LARGE, 99e6)).toMatchObject({ bytes: 16e6, quality: 20 });
    expect(atValue(LARGE, 21)).toBeNull();
    expect(atValue(LARGE, 1)).toMatchObject({ bytes: 1e6 });
  });

  it('foresees the middle of each two neighbours, and nothing beyond', () => {
    const { points } = withForecasts(LARGE, 1);
    expect(points.map(({ kind }) => kind).join(' ')).toBe(
      'tried forecast tried forecast tried forecast tried forecast tried',
    );
    for (const [index, point] of points.entries()) {
      if (point.kind === 'tried') continue;
      const [before, after] = [points[index - 1]!, points[index + 1]!];
      // Straight in the logarithm: at quality 37 or 38 of 35 and 40 the size lies so far between.
      const share = (before.quality - point.quality) / (before.quality - after.quality);
      expect(Number.isInteger(point.quality)).toBe(true);
      expect(point.bytes / (before.bytes * 2 ** share)).toBeCloseTo(1, 6);
      expect(point.value).toBeCloseTo(before.value + 3 * share, 6);
      // As wide as its neighbours' bars, and one per cent.
      expect(Math.log(point.high / point.bytes)).toBeCloseTo(Math.log(1.05) + 0.01, 5);
      expect(Math.log(point.bytes / point.low)).toBeCloseTo(Math.log(1 / 0.95) + 0.01, 5);
    }
  });

  it('foresees nothing between qualities without a step between them, nor of one point', () => {
    const close = { ...LARGE, points: LARGE.points.map((point, index) => ({ ...point, quality: 40 - index })) };
    expect(withForecasts(close, 1)).toEqual(close);
    const single = { ...LARGE, points: LARGE.points.slice(0, 1) };
    expect(withForecasts(single, 1)).toEqual(single);
  });

  it('is less sure of what is foreseen where it bends', () => {
    const bent = curveOf('h264', 1080, doubling(8, 3), [1e6, 1.1e6, 1.2e6, 8e6, 16e6]);
    const widths = withForecasts(bent, 1).points.flatMap(({ kind, high, bytes }) =>
      kind === 'forecast' ? [Math.log(high / bytes)] : [],
    );
    const least = Math.log(1.05) + 0.01;
    expect(widths.every((width) => width >= least - 1e-6)).toBe(true);
    expect(Math.max(...widths)).toBeGreaterThan(least + 0.02);
  });

  it('leaves out what is larger without being better', () => {
    const [a, b, c] = LARGE.points;
    const noise = { ...b!, bytes: 3e6, value: b!.value - 0.1 };
    expect(inOrder([c!, noise, a!, b!])).toEqual([a, b, c]);
  });
});

describe('the best under a cap', () => {
  it('changes from the small frame to the large where the curves cross', () => {
    // 8 + 3x = 11 + 1.5x at two doublings.
    expect(bestUnder([LARGE, SMALL], 3.9e6)?.place.height).toBe(720);
    expect(bestUnder([LARGE, SMALL], 4.1e6)?.place.height).toBe(1080);
    expect(bestUnder([LARGE, SMALL], 0.5e6)).toBeNull();
  });

  it('is looked for among what is encoded in time', () => {
    const [slow, quick] = [
      { ...LARGE, workSeconds: 600 },
      { ...SMALL, workSeconds: 200 },
    ];
    expect(bestUnder(withinTime([slow, quick], 300), 8e6)?.place.height).toBe(720);
    expect(bestUnder(withinTime([slow, quick], 600), 8e6)?.place.height).toBe(1080);
    expect(withinTime([LARGE, slow, quick], 100)).toEqual([]);
  });

  it('is named with what it beats', () => {
    const choice = bestUnder([LARGE, SMALL], 2e6)!;
    expect(explainBest(choice, 2e6)).toBe('H.264 at 1280 × 720 beats H.264 at 1920 × 1080 by 1.5 dB under 2.00 MB.');
  });

  it('is told with its doubt where bars are wider than what it wins by', () => {
    const wide = (curve: ScaleCurve) => ({
      ...curve,
      points: curve.points.map((point) => ({ ...point, low: point.bytes / 1.5, high: point.bytes * 1.5 })),
    });
    const choice = bestUnder([wide(LARGE), wide(SMALL)], 2e6)!;
    // Half as many bytes again are 0.58 doublings: 1.75 dB on the one and 0.88 dB on the other.
    expect(choice.doubt).toBeCloseTo(Math.hypot(3 * Math.log2(1.5), 1.5 * Math.log2(1.5)), 6);
    expect(explainBest(choice, 2e6)).toBe(
      'H.264 at 1280 × 720 beats H.264 at 1920 × 1080 by 1.5 dB under 2.00 MB, as far as so few excerpts can tell: it may be off by 2.0 dB.',
    );
    expect(bestUnder([LARGE], 2e6)!.doubt).toBeLessThan(bestUnder([LARGE, SMALL], 2e6)!.doubt);
  });

  it('asked the other way round is the smallest that is as good', () => {
    expect(smallestAtLeast([LARGE, SMALL], 12.5)?.place).toMatchObject({ height: 720 });
    expect(smallestAtLeast([LARGE, SMALL], 17)?.place).toMatchObject({ height: 1080 });
    expect(smallestAtLeast([LARGE, SMALL], 30)).toBeNull();
  });

  it('is never beaten by any curve at any size', () => {
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.double({ min: 1, max: 12, noNaN: true }), fc.double({ min: 0.3, max: 4, noNaN: true })), {
          minLength: 1,
          maxLength: 5,
        }),
        fc.double({ min: 1e6, max: 16e6, noNaN: true }),
        (lines, cap) => {
          const curves = lines.map(([start, step]) => curveOf('av1', 540, doubling(start, step)));
          const best = bestUnder(curves, cap)!;
          expect(best.place.bytes).toBeLessThanOrEqual(cap);
          for (const curve of curves)
            expect(best.place.value).toBeGreaterThanOrEqual(atBytes(curve, cap)!.value - 1e-9);
        },
      ),
    );
  });
});

describe('the envelope and its knee', () => {
  it('rise with the size', () => {
    const values = envelopeOf([LARGE, SMALL]).map(({ value }) => value);
    expect(values).toEqual(values.toSorted((a, b) => a - b));
    expect(values.at(-1)).toBeCloseTo(8 + 3 * 4, 6);
  });

  it('of a curve that flattens lies where a doubling buys 0.3 dB', () => {
    // 20 − 8/x: a doubling of x megabytes buys 4/x, so the knee is at 13.3.
    const sizes = Array.from({ length: 60 }, (_, index) => 1e6 * 1.1 ** index);
    const curve = curveOf('hevc', 720, (bytes) => 20 - 8 / (bytes / 1e6), sizes);
    expect(kneeOf([curve])!.bytes / 1e6).toBeGreaterThan(13);
    expect(kneeOf([curve])!.bytes / 1e6).toBeLessThan(14.2);
  });

  it('is not told of curves that still rise where they end', () => {
    expect(kneeOf([LARGE])).toBeNull();
  });
});

/** Bjøntegaard delta rate (VCEG-M33), worked properties; value from memory. */
describe('the delta of rate', () => {
  const twice = { ...LARGE, points: LARGE.points.map((point) => ({ ...point, bytes: point.bytes * 2 })) };

  it('is nothing between a curve and itself, and twice and half as it should be', () => {
    expect(rateDelta(LARGE, LARGE)?.delta).toBeCloseTo(0, 9);
    expect(rateDelta(LARGE, twice)?.delta).toBeCloseTo(1, 9);
    expect(rateDelta(twice, LARGE)?.delta).toBeCloseTo(-0.5, 9);
  });

  it('tells over which qualities it is taken, and none where there are none', () => {
    expect(rateDelta(LARGE, SMALL)?.overlap).toEqual([11, 17]);
    expect(rateDelta(LARGE, SMALL)?.shared).toBeCloseTo(6 / 12, 9);
    expect(rateDelta(LARGE, curveOf('vp9', 720, doubling(50, 1)))).toBeNull();
  });
});
