import { describe, expect, it } from 'vitest';
import { RATED } from '../video/codecs.ts';
import { withEnds, type Sounding } from './sounding.ts';

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
