import { describe, expect, it } from 'vitest';
import { plainVideo, copyingRecipe, STARTING_RECIPE, type Recipe, OWN_PICTURE } from './recipe.ts';
import { factsOf } from '../../testing/facts.ts';
import { describeRecipe } from './describeRecipe.ts';

const SIZE = { width: 1280, height: 536 };

function recipeOf(changes: Partial<Recipe>): Recipe {
  return { ...STARTING_RECIPE, ...changes };
}

describe('an order as plain text', () => {
  it.each([
    ['constant quality', recipeOf({}), 'H.264, 1280 × 536, at constant quality 23, AAC stereo at 128 kb/s'],
    [
      'an average rate',
      recipeOf({ video: plainVideo('hevc', { mode: 'average', kbps: 2500, passes: 2 }, 'fast') }),
      'HEVC, 1280 × 536, averaging 2,500 kb/s in two passes, AAC stereo at 128 kb/s',
    ],
    [
      'a size without sound',
      recipeOf({ audio: null, video: plainVideo('h264', { mode: 'size', bytes: 48_000_000 }, 'fast') }),
      'H.264, 1280 × 536, filling 48 MB, no sound',
    ],
    [
      'a prepared picture',
      recipeOf({
        picture: { ...OWN_PICTURE, deinterlace: 'top-first', crop: { top: 2, bottom: 0, left: 0, right: 0 } },
      }),
      'H.264, deinterlaced, cropped, 1280 × 536, at constant quality 23, AAC stereo at 128 kb/s',
    ],
    [
      'fields as frames',
      recipeOf({ picture: { ...OWN_PICTURE, deinterlace: 'top-first' }, time: { frameRate: 'fields' } }),
      'H.264, deinterlaced, 1280 × 536, each field a frame, at constant quality 23, AAC stereo at 128 kb/s',
    ],
    [
      'fields as frames of what has none',
      recipeOf({ time: { frameRate: 'fields' } }),
      'H.264, 1280 × 536, at constant quality 23, AAC stereo at 128 kb/s',
    ],
    [
      'sound at a level',
      recipeOf({ audio: { ...STARTING_RECIPE.audio, loudness: { lufs: -16, truePeakDbtp: -1 } } }),
      'H.264, 1280 × 536, at constant quality 23, AAC stereo at 128 kb/s, levelled to −16 LUFS',
    ],
    [
      'sound that is treated',
      recipeOf({
        audio: { ...STARTING_RECIPE.audio, gainDb: -3.5, delayMs: 40, fadeInSeconds: 0.5, fadeOutSeconds: 2 },
      }),
      'H.264, 1280 × 536, at constant quality 23, AAC stereo at 128 kb/s, turned down by 3.5 dB, 40 ms later, faded in over 0.5 s and out over 2 s',
    ],
    [
      'a picture that is corrected',
      recipeOf({
        picture: {
          ...STARTING_RECIPE.picture,
          denoise: 0.25,
          adjust: { brightness: -0.05, contrast: 1.1, saturation: 1, gamma: 0.9 },
        },
      }),
      'H.264, 25 % of noise reduction, brightness −0.05, contrast × 1.1, gamma × 0.9, 1280 × 536, at constant quality 23, AAC stereo at 128 kb/s',
    ],
    ['sound alone', recipeOf({ video: null }), 'An MP4 of sound only, AAC stereo at 128 kb/s'],
    ['a copy', copyingRecipe(factsOf(), STARTING_RECIPE, 'mp4'), 'The master’s own streams, copied'],
    [
      'a silent copy',
      copyingRecipe(factsOf({ audio: [] }), STARTING_RECIPE, 'mp4'),
      'The master’s own streams, copied, no sound',
    ],
  ])('%s', (_name, recipe, expected) => {
    expect(describeRecipe(recipe, SIZE)).toBe(expected);
  });

  it('names no size where none is planned', () => {
    expect(describeRecipe(STARTING_RECIPE, null)).toContain('up to 1280 × 720');
  });
});
