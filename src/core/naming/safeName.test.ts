import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { makeSafeName } from './safeName.ts';

describe('names of uploads', () => {
  it.each([
    ['film.mov', 'film.mov'],
    ['../../etc/passwd', 'passwd'],
    ['C:\\Users\\x\\My film.mov', 'My film.mov'],
    ['a"b\nc?.mp4', 'a_b_c_.mp4'],
    ['.hidden.mov', 'hidden.mov'],
    ['', 'upload'],
    ['...', 'upload'],
    ['right\u202eto left.mov', 'right_to left.mov'],
    ['Grüße 🎬.mov', 'Grüße 🎬.mov'],
  ])('%j becomes %j', (wanted, safe) => {
    expect(makeSafeName(wanted)).toBe(safe);
  });

  it('fit every file system, whatever is wanted', () => {
    fc.assert(
      fc.property(fc.string({ unit: 'binary', maxLength: 400 }), (wanted) => {
        const name = makeSafeName(wanted);
        expect(name).not.toMatch(/^\.|[/\\\0]/);
        expect(name.length).toBeGreaterThan(0);
        expect(new TextEncoder().encode(name).length).toBeLessThanOrEqual(247);
      }),
      { seed: 13 },
    );
  });

  it('keep their ending when they are cut', () => {
    expect(makeSafeName(`${'ü'.repeat(300)}.mov`)).toMatch(/ü\.mov$/);
  });
});
