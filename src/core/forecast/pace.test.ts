import { describe, expect, it } from 'vitest';
import { paceOf } from './pace.ts';
import { foreseeStretches, type StretchesWork } from './trialTime.ts';
import { STARTING_SECONDS } from './encodeTime.ts';
import { workOf } from './encodeWork.ts';

describe('the pace of a pass', () => {
  const span = { startSeconds: 0, seconds: 100 };
  const half = (first: number, second: number) => ({
    stepSeconds: 0.5,
    bits: Array.from({ length: 200 }, (_, step) => (step < 100 ? first : second)),
  });

  it('is even where the picture is', () => {
    const pace = paceOf(half(1000, 1000), span);
    for (const share of [0, 0.1, 0.5, 0.77, 1]) expect(pace(share)).toBeCloseTo(share, 9);
  });

  it('leaves the busy half more than half of the work', () => {
    const pace = paceOf(half(1000, 10_000), span);
    // Ten times the bits take twice as long.
    expect(pace(0.5)).toBeCloseTo(1 / 3, 1);
    expect(pace(0)).toBe(0);
    expect(pace(1)).toBeCloseTo(1, 9);
  });

  it('goes by the portion that is taken', () => {
    const pace = paceOf(half(1000, 10_000), { startSeconds: 50, seconds: 50 });
    expect(pace(0.5)).toBeCloseTo(0.5, 9);
  });

  it('never stands still in what is black, and is even where all of it is', () => {
    const pace = paceOf(half(0, 1000), span);
    expect(pace(0.25)).toBeGreaterThan(0.05);
    expect(paceOf(half(0, 0), span)(0.3)).toBe(0.3);
  });
});

describe('what trying stretches takes', () => {
  const kind = { codec: 'h264', effort: 'fast', way: 'once' } as const;
  const speeds = {
    encoding: [{ ...kind, workPerSecond: { slowest: 1e7, usual: 2e7, fastest: 3e7 }, bitsPerPixel: 0.03, encodes: 3 }],
    programmes: [],
    checkedPixelsPerSecond: 1e8,
  };
  const stretches: StretchesWork = {
    ...{ kind, ways: [230_400], masters: 921_600, stretches: 4, framesEncoded: 80, framesCompared: 50 },
  };

  it('is a start, an encode and a comparison for each', () => {
    const pixels = { own: 230_400 * 80, masters: 921_600 * 80 };
    const each = STARTING_SECONDS + workOf(kind, pixels, 0.03) / 2e7 + (921_600 * 50) / 1e8;
    expect(foreseeStretches(stretches, speeds)).toBeCloseTo(0.65 * 4 * each, 9);
  });

  it('is less together than one by one, and nothing where all is known', () => {
    const one = foreseeStretches(stretches, speeds)!;
    const three = foreseeStretches({ ...stretches, ways: [230_400, 230_400, 230_400] }, speeds)!;
    expect(three).toBeGreaterThan(one);
    expect(three).toBeLessThan(3 * one);
    expect(foreseeStretches({ ...stretches, ways: [] }, speeds)).toBe(0);
  });

  it('is unknown before anything was finished', () => {
    expect(foreseeStretches(stretches, { encoding: [], programmes: [], checkedPixelsPerSecond: null })).toBeNull();
  });
});
