import { describe, expect, it } from 'vitest';
import { isWithin, minutesOf } from './openHours.ts';

describe('hours', () => {
  it.each([
    ['23:00', 23 * 60],
    ['7:05', 425],
    ['00:00', 0],
    ['24:00', null],
    ['7', null],
    ['12:60', null],
  ])('of a day: %s', (time, minutes) => {
    expect(minutesOf(time)).toBe(minutes);
  });

  it.each([
    ['23:00', '07:00', '23:00', true],
    ['23:00', '07:00', '03:30', true],
    ['23:00', '07:00', '07:00', false],
    ['23:00', '07:00', '12:00', false],
    ['09:00', '17:00', '12:00', true],
    ['09:00', '17:00', '17:00', false],
    ['09:00', '17:00', '08:59', false],
    ['06:00', '06:00', '12:00', true],
  ])('from %s to %s are open at %s: %s', (from, to, now, isOpen) => {
    expect(isWithin({ from, to }, minutesOf(now)!)).toBe(isOpen);
    expect(isWithin(null, minutesOf(now)!)).toBe(true);
  });
});
