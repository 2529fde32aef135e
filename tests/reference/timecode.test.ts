import fc from 'fast-check';
import Timecode from 'smpte-timecode';
import { describe, expect, it } from 'vitest';
import { rational, type Rational } from '../../src/core/timing/rational.ts';
import { frameToTimecode, parsePosition } from '../../src/core/timing/timecode.ts';

// SMPTE ST 12-1, against the package smpte-timecode, which counts independently.
const RATES: readonly (readonly [Rational, 25 | 24 | 30 | 29.97 | 59.94, boolean])[] = [
  [rational(25, 1), 25, false],
  [rational(24, 1), 24, false],
  [rational(30, 1), 30, false],
  [rational(30000, 1001), 29.97, true],
  [rational(60000, 1001), 59.94, true],
];

describe('timecode', () => {
  it.each(RATES)('at %j is what another library counts', (rate, name, drops) => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 24 * 3600 * 24 - 1 }), (frame) => {
        const theirs = Timecode(frame, name, drops).toString();
        expect(frameToTimecode(frame, rate)).toBe(theirs);
        expect(parsePosition(theirs, rate)).toBe(frame);
      }),
      { seed: 23, numRuns: 400 },
    );
  });
});
