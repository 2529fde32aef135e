import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { factsOf } from '../../testing/facts.ts';
import { positionsOf } from '../programme/positions.ts';
import { formatClockTime, readClockTime } from './clockTime.ts';
import { listedClock } from './frameClock.ts';
import { nameFrameRate, snapFrameRate } from './frameRate.ts';
import { framesToSeconds, parseRational, rational } from './rational.ts';
import { frameToTimecode, parsePosition, parseShorthand, readTimecodeStart, zeroStart } from './timecode.ts';

const NTSC = rational(30000, 1001);
const NTSC60 = rational(60000, 1001);
const PAL = rational(25, 1);

describe('rational', () => {
  it('is kept in lowest terms', () => {
    expect(rational(50, 2)).toEqual({ num: 25, den: 1 });
  });

  it('reads fractions and refuses what is none', () => {
    expect(parseRational('30000/1001')).toEqual(NTSC);
    expect(parseRational('64:45')).toEqual({ num: 64, den: 45 });
    for (const text of ['0/0', '25/0', 'N/A', '', '-1/2']) expect(parseRational(text)).toBeNull();
  });

  it('counts 720 frames at 60000/1001 as 12.012 seconds', () => {
    expect(framesToSeconds(720, NTSC60)).toBeCloseTo(12.012, 12);
  });
});

describe('frame rates', () => {
  // SMPTE ST 12-1, ITU-R BT.709: 23.976, 29.97, 59.94 are n/1001 (values from memory).
  it.each([
    [23.976, 24000, 1001],
    [29.97, 30000, 1001],
    [59.94, 60000, 1001],
    [19001 / 317, 60000, 1001],
    [2997 / 50, 60000, 1001],
    [24, 24, 1],
    [25.0001, 25, 1],
  ])('takes %f for %i/%i', (typed, num, den) => {
    expect(snapFrameRate(typed)).toEqual({ num, den });
  });

  it('keeps an unusual rate and names all', () => {
    expect(snapFrameRate(17.5)).toEqual({ num: 35, den: 2 });
    expect(nameFrameRate(NTSC60)).toBe('59.94');
    expect(nameFrameRate(rational(35, 2))).toBe('17.5');
  });
});

describe('timecode', () => {
  // SMPTE ST 12-1 drop-frame counts (values from memory).
  it('drops frames as the standard counts them', () => {
    expect(frameToTimecode(1799, NTSC)).toBe('00:00:59;29');
    expect(frameToTimecode(1800, NTSC)).toBe('00:01:00;02');
    expect(frameToTimecode(17_982, NTSC)).toBe('00:10:00;00');
    expect(frameToTimecode(107_892, NTSC)).toBe('01:00:00;00');
    expect(frameToTimecode(3600, NTSC60)).toBe('00:01:00;04');
  });

  it('counts straight at whole rates', () => {
    expect(frameToTimecode(90_000, PAL)).toBe('01:00:00:00');
    expect(frameToTimecode(24, PAL)).toBe('00:00:00:24');
  });

  it('reads frames, seconds and timecode', () => {
    expect(parsePosition('312', PAL)).toBe(312);
    expect(parsePosition('0.04s', PAL)).toBe(1);
    expect(parsePosition('1:05', PAL)).toBe(30);
    expect(parsePosition('00:01:00;02', NTSC)).toBe(1800);
  });

  it('reads the short way of the trade', () => {
    const read = (text: string, digits: 'frame' | 'timecode' = 'timecode', start = zeroStart(PAL)) =>
      parseShorthand(text, PAL, start, 100, digits);
    expect([read('1210'), read('12:10'), read('7'), read('510'), read('01000000')]).toEqual([310, 310, 7, 135, 90_000]);
    expect([read('312', 'frame'), read('1210', 'frame')]).toEqual([312, 1210]);
    expect([read('+50'), read('-50'), read('\u221250'), read('+1:00'), read('+2s')]).toEqual([150, 50, 50, 125, 150]);
    expect([read('1230'), read('+x'), read('123456789')]).toEqual([null, null, 123456789]);
    // What is left out is as the programme begins.
    const ten = readTimecodeStart('10:00:00:00', PAL);
    expect([read('1210', 'timecode', ten), read('12:10', 'timecode', ten), read('10001210', 'timecode', ten)]).toEqual([
      310, 310, 310,
    ]);
    const late = readTimecodeStart('10:59:58:00', PAL);
    expect(read('11:00:00:00', 'timecode', late)).toBe(50);
  });

  it('refuses what names no frame', () => {
    for (const text of ['', 'abc', '00:00:00:25', '00:61:00:00', '-3']) expect(parsePosition(text, PAL)).toBeNull();
    expect(parsePosition('00:01:00;00', NTSC)).toBeNull();
  });

  it('reads back every timecode it writes', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 0, max: 2_073_599 }),
        fc.constantFrom(NTSC, NTSC60, PAL, rational(24000, 1001)),
        (frame, rate) => {
          expect(parsePosition(frameToTimecode(frame, rate), rate)).toBe(frame);
        },
      ),
      { seed: 1 },
    );
  });
});

describe('time on the clock', () => {
  it('is written in milliseconds and read back', () => {
    expect(formatClockTime(3723.4)).toBe('01:02:03.400');
    expect(formatClockTime(0.04)).toBe('00:00:00.040');
    expect(readClockTime('01:02:03.400')).toBe(3723.4);
    expect(readClockTime('2:03.5')).toBe(123.5);
    expect(readClockTime('12.5s')).toBe(12.5);
    for (const text of ['', '12', '1:60', '61:00:00:00', '00:61:00', '-1s']) expect(readClockTime(text)).toBeNull();
  });

  it('names every frame of a varying rate so that it is found again', () => {
    fc.assert(
      fc.property(fc.array(fc.double({ min: 0.0011, max: 9, noNaN: true }), { minLength: 1 }), (lengths) => {
        const ends = lengths.map((_, index) => lengths.slice(0, index + 1).reduce((sum, one) => sum + one, 0));
        const clock = listedClock([0, ...ends.slice(0, -1)], ends.at(-1)!);
        const { name, read } = positionsOf(factsOf({}, { constantRate: false }), clock);
        lengths.forEach((_, frame) => expect(read(name(frame), 0, 'timecode')).toBe(frame));
      }),
      { seed: 3 },
    );
  });
});

describe('a programme’s own timecode', () => {
  it('is counted on from its start, and typed in the same way', () => {
    const start = readTimecodeStart('10:00:00:00', PAL);
    expect(frameToTimecode(26, PAL, start)).toBe('10:00:01:01');
    expect(parsePosition('10:00:01:01', PAL, start)).toBe(26);
    expect(parsePosition('26', PAL, start)).toBe(26);
    expect(parsePosition('09:59:59:00', PAL, start)).toBeLessThan(0);
  });

  it('drops frames only where the file says so', () => {
    expect(frameToTimecode(1800, NTSC, readTimecodeStart('01:00:00:00', NTSC))).toBe('01:01:00:00');
    expect(frameToTimecode(1800, NTSC, readTimecodeStart('01:00:00;00', NTSC))).toBe('01:01:00;02');
    expect(frameToTimecode(25, PAL, readTimecodeStart('01:00:00;00', PAL))).toBe('01:00:01:00');
  });

  it('begins again after 24 hours', () => {
    expect(frameToTimecode(50, PAL, readTimecodeStart('23:59:59:00', PAL))).toBe('00:00:01:00');
    expect(frameToTimecode(2_589_408, NTSC)).toBe('00:00:00;00');
  });

  it('is zero where the file has none, or nonsense', () => {
    for (const text of [null, '', '99', '01:00:00:77', '10:00:00']) {
      expect(frameToTimecode(0, PAL, readTimecodeStart(text, PAL))).toBe('00:00:00:00');
    }
  });
});
