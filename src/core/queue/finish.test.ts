import { describe, expect, it } from 'vitest';
import { secondsUntilDone } from './finish.ts';

const HOUR = 3600;
const NIGHT = { from: '23:00', to: '07:00' };

describe('until work is done', () => {
  it.each([
    ['at any hour', 5 * HOUR, 12, null, 5],
    ['hours that begin and end together', 5 * HOUR, 12, { from: '06:00', to: '06:00' }, 5],
    ['within an open night', 2 * HOUR, 24, NIGHT, 2],
    ['within an open night, after midnight', 6 * HOUR, 1, NIGHT, 6],
    ['before it opens', 2 * HOUR, 20, NIGHT, 5],
    ['more than what is left of the night: it goes on the next', 8 * HOUR, 3, NIGHT, 4 + 16 + 4],
    ['exactly to its end', 4 * HOUR, 3, NIGHT, 4],
    ['over three nights', 20 * HOUR, 23, NIGHT, 8 + 16 + 8 + 16 + 4],
    ['a working day', 2 * HOUR, 16.5, { from: '09:00', to: '17:00' }, 0.5 + 16 + 1.5],
  ])('%s', (_, work, hourOfDay, hours, expected) => {
    expect(secondsUntilDone(work, (hourOfDay % 24) * HOUR, hours)).toBeCloseTo(expected * HOUR, 6);
  });

  it('never takes less than the work', () => {
    for (let hour = 0; hour < 24; hour += 1) {
      for (const work of [1, HOUR, 9 * HOUR, 50 * HOUR]) {
        expect(secondsUntilDone(work, hour * HOUR, NIGHT)).toBeGreaterThanOrEqual(work);
      }
    }
  });
});
