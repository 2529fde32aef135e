import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { constantClock, listedClock, seekSeconds } from './frameClock.ts';
import { framesToSeconds, rational } from './rational.ts';

const PHONE = [0, 0.033, 0.067, 0.2, 0.233];

describe('a constant clock', () => {
  const clock = constantClock(rational(30000, 1001), 300);

  it('names every frame by its own beginning and by any moment while it is shown', () => {
    for (const frame of [0, 1, 17, 299]) {
      expect(clock.frameAt(clock.secondsOf(frame))).toBe(frame);
      expect(clock.frameAt(clock.secondsOf(frame) + 0.9 * framesToSeconds(1, rational(30000, 1001)))).toBe(frame);
    }
  });

  it('stays inside the programme', () => {
    expect(clock.frameAt(-1)).toBe(0);
    expect(clock.frameAt(1e6)).toBe(299);
  });

  it('has one frame and no time where there is only sound', () => {
    const silent = constantClock({ num: 0, den: 1 }, 0);
    expect(silent.secondsOf(0)).toBe(0);
  });
});

describe('a listed clock', () => {
  const clock = listedClock(PHONE, 0.3);

  it('knows when each frame begins and when the last ends', () => {
    expect(PHONE.map((_, frame) => clock.secondsOf(frame))).toEqual(PHONE);
    expect(clock.secondsOf(5)).toBe(0.3);
  });

  it('says which frame is shown at a moment, also through a long one', () => {
    expect([3.9, 3.999, 4].map(listedClock([0, 4], 5).frameAt)).toEqual([0, 1, 1]);
    expect([0, 0.034, 0.1, 0.19, 0.21, 0.29, 5].map(clock.frameAt)).toEqual([0, 1, 2, 2, 3, 4, 4]);
  });

  it('takes a time rounded down for the frame it was rounded from', () => {
    expect(clock.frameAt(0.0329)).toBe(1);
  });

  it('is the constant clock where the times are even', () => {
    const rate = rational(25, 1);
    const even = listedClock(
      Array.from({ length: 100 }, (_, frame) => framesToSeconds(frame, rate)),
      4,
    );
    const constant = constantClock(rate, 100);
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 99 }), fc.double({ min: 0, max: 0.9, noNaN: true }), (frame, within) => {
        const moment = constant.secondsOf(frame) + within * 0.04;
        expect(even.frameAt(moment)).toBe(constant.frameAt(moment));
        expect(even.secondsOf(frame)).toBe(constant.secondsOf(frame));
      }),
    );
  });
});

describe('seeking', () => {
  it('opens between the frame before and the wanted one', () => {
    expect(seekSeconds(constantClock(rational(60000, 1001), 100), 3, 1)).toBeCloseTo(1 + (2.5 * 1001) / 60000, 12);
    expect(seekSeconds(listedClock(PHONE, 0.3), 3, 0)).toBeCloseTo((0.067 + 0.2) / 2, 12);
  });

  it('opens at the very beginning for the first frame', () => {
    expect(seekSeconds(constantClock(rational(25, 1), 100), 0, 2)).toBe(0);
  });
});
