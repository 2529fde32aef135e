import { describe, expect, it } from 'vitest';
import { RATED } from '../video/codecs.ts';
import { seededRandom } from '../../testing/seededRandom.ts';
import { chooseSampledSpans } from './soundedSpans.ts';
import {
  isWorthACloserLook,
  nextToSound,
  ROUGH_ERROR,
  sampledRate,
  soundedInPart,
  soundedRate,
  soundingAt,
  withEnds,
  type Sounding,
} from './sounding.ts';

const size = { width: 1280, height: 720 };
const scale = RATED.h264.quality;
const TRIED: Sounding = {
  codec: 'h264',
  size,
  points: [
    { quality: 15, bitsPerSecond: 8e6 },
    { quality: 31, bitsPerSecond: 1e6 },
  ],
  error: { below: 0.02, above: 0.02 },
};
const QUICK: Sounding = {
  codec: 'h264',
  size,
  points: [
    { quality: 12, bitsPerSecond: 24e6 },
    { quality: 15, bitsPerSecond: 16e6 },
    { quality: 31, bitsPerSecond: 3e6 },
    { quality: 51, bitsPerSecond: 3e5 },
  ],
};

describe('what was tried, with the ends of the scale', () => {
  it('goes on as a quick sounding does, put right by how far that lay off', () => {
    expect(withEnds(TRIED, QUICK, scale).points).toEqual([
      { quality: 12, bitsPerSecond: 12e6 },
      ...TRIED.points,
      { quality: 51, bitsPerSecond: 1e5 },
    ]);
  });

  it('goes on by what is usual where nothing was sounded, and keeps its error', () => {
    const { points, error } = withEnds(TRIED, null, scale);
    expect(points.map(({ quality }) => quality)).toEqual([12, 15, 31, 51]);
    expect(points[0]!.bitsPerSecond).toBe(Math.round(8e6 * Math.exp(3 * 0.14)));
    expect(error).toEqual(TRIED.error);
  });
});

describe('a sounding in turns', () => {
  it('begins around the quality that is wanted, with the coarsest, and goes on with the rest', () => {
    expect(nextToSound(scale, [], 23)).toEqual([22, 26, 51]);
    expect(nextToSound(scale, [], 22)).toEqual([22, 26, 51]);
    expect(nextToSound(scale, [], 4)).toEqual([12, 18, 51]);
    for (const coarse of [32, 40, 51, 90]) expect(nextToSound(scale, [], coarse)).toEqual([32, 51]);
    expect(nextToSound(scale, [22, 26, 51], 23)).toEqual([12, 18, 32]);
    expect(nextToSound(scale, [12, 18, 22, 23.5, 26, 32, 51], 23)).toEqual([]);
    expect(nextToSound(scale, [], null)).toEqual(scale.sounded);
  });

  it('tells of what lies between two as near as ever, and roughly of all else', () => {
    const points = [
      { quality: 22, bitsPerSecond: 4e6 },
      { quality: 26, bitsPerSecond: 2e6 },
      { quality: 51, bitsPerSecond: 1e5 },
    ];
    const part = soundedInPart({ codec: 'h264', size, points }, scale);
    expect(part).toMatchObject({ isRough: true, error: ROUGH_ERROR, between: [22, 26] });
    expect(part.points.map(({ quality }) => quality)).toEqual([12, 22, 26, 51]);
    const near = soundingAt(part, 24);
    expect([near.isRough, near.error]).toEqual([undefined, undefined]);
    expect(soundedRate(near, 24)).toBeCloseTo(Math.sqrt(8) * 1e6, -3);
    for (const beyond of [21.9, 26.1, 51]) expect(soundingAt(part, beyond)).toBe(part);
    // Of places that were chosen before anyone knew how busy they are nothing is near.
    expect(soundedInPart({ codec: 'h264', size, points, isRough: true }, scale).between).toBeUndefined();
    expect(soundingAt(QUICK, 24)).toBe(QUICK);
  });
});

describe('frames that stand by themselves', () => {
  it('are taken a few at a place, in the middles of equal parts, all of what is short', () => {
    expect(chooseSampledSpans({ inFrame: 7, frameCount: 24 }, 25)).toEqual([{ inFrame: 7, frameCount: 24 }]);
    expect(chooseSampledSpans({ inFrame: 100, frameCount: 600 }, 25).map(({ inFrame }) => inFrame)).toEqual([
      148, 248, 348, 448, 548, 648,
    ]);
    const hour = chooseSampledSpans({ inFrame: 0, frameCount: 90_000 }, 25);
    expect(hour).toHaveLength(30);
    expect(hour.every(({ frameCount }) => frameCount === 4)).toBe(true);
  });

  it('tell a rate, all but exactly where all of them were weighed', () => {
    const { bitsPerSecond, error } = sampledRate([[1000, 3000]], 25, true);
    expect(bitsPerSecond).toBe(2000 * 8 * 25);
    expect(error).toBeLessThan(0.01);
    expect(sampledRate([[0]], 25, false).bitsPerSecond).toBe(1);
  });

  it('say how far they may be off: nine of ten wholes lie within', () => {
    const random = seededRandom(5);
    let inside = 0;
    for (let turn = 0; turn < 400; turn += 1) {
      // Scenes of four places each, unlike each other by up to three times.
      const frames = Array.from({ length: 40 }, () => 1000 * 3 ** random()).flatMap((size) =>
        Array<number>(4).fill(size),
      );
      const mean = frames.reduce((sum, size) => sum + size, 0) / frames.length;
      const places = Array.from({ length: 6 }, () => [frames[Math.floor(random() * frames.length)]!]);
      const { bitsPerSecond, error } = sampledRate(places, 1, false);
      if (Math.abs((mean * 8) / bitsPerSecond - 1) <= error) inside += 1;
    }
    expect(inside / 400).toBeGreaterThan(0.87);
  });
});

describe('a closer look', () => {
  const grain: Sounding = {
    codec: 'h264',
    size,
    points: [
      { quality: 12, bitsPerSecond: 14e6 },
      { quality: 18, bitsPerSecond: 8e6 },
      { quality: 22, bitsPerSecond: 4e6 },
      { quality: 26, bitsPerSecond: 4e5 },
      { quality: 51, bitsPerSecond: 1e4 },
    ],
  };

  it('is worth it between two points where grain is dropped, and nowhere else', () => {
    const isWorth = (quality: number) => isWorthACloserLook(grain, scale, quality);
    expect([23, 24, 25.2].map(isWorth)).toEqual([true, true, true]);
    expect([15, 20, 40].map(isWorth)).toEqual([false, false, false]);
    // The points themselves tell, and beyond them there is nothing to look between.
    expect([22, 22.5, 25.5, 26, 11, 52].map(isWorth)).toEqual([false, false, false, false, false, false]);
    expect(isWorthACloserLook(QUICK, scale, 24)).toBe(false);
  });
});
