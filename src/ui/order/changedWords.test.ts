import { describe, expect, it } from 'vitest';
import { changedWords } from './changedWords.ts';

describe('what changed in a sentence', () => {
  it.each([
    ['H.264, 1280 × 720, filling 48 MB', 'H.264, 1280 × 720, filling 60 MB', [5]],
    ['H.264, 1280 × 720, no sound', 'H.264, cropped, 1280 × 720, no sound', [1]],
    ['a b c', 'a b c', []],
    ['a b c', 'a c', []],
    ['a', 'x y', [0, 1]],
  ])('from “%s” to “%s”', (before, after, places) => {
    expect([...changedWords(before, after)]).toEqual(places);
  });
});
