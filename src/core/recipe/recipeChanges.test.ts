import { describe, expect, it } from 'vitest';
import { STARTING_RECIPE, type Recipe } from './recipe.ts';
import { changesOf } from './recipeChanges.ts';

const withPicture = (picture: Partial<Recipe['picture']>): Recipe => ({
  ...STARTING_RECIPE,
  picture: { ...STARTING_RECIPE.picture, ...picture },
});
const withSound = (audio: Partial<typeof STARTING_RECIPE.audio>): Recipe => ({
  ...STARTING_RECIPE,
  audio: { ...STARTING_RECIPE.audio, ...audio },
});

describe('what was changed in a recipe', () => {
  const rows: readonly (readonly [changed: Recipe, name: string])[] = [
    [withPicture({ denoise: 0.3 }), 'noise reduction'],
    [withPicture({ adjust: { brightness: 0, contrast: 1, saturation: 1, gamma: 1.1 } }), 'light and colour'],
    [withPicture({ rotate: 90 }), 'turning'],
    [withPicture({ pad: { width: 640, height: 640, with: 'blur' } }), 'shape'],
    [withSound({ gainDb: -3 }), 'gain'],
    [withSound({ delayMs: 40 }), 'delay'],
    [withSound({ fadeOutSeconds: 2 }), 'fades'],
    [withSound({ loudness: { lufs: -16, truePeakDbtp: -1 } }), 'loudness'],
    [{ ...STARTING_RECIPE, file: { ...STARTING_RECIPE.file, chapters: false } }, 'chapters'],
  ];

  it.each(rows)('is called by its name: %#', (changed, name) => {
    expect(changesOf(STARTING_RECIPE, changed)).toContain(name);
    expect(changesOf(changed, changed)).toEqual([]);
  });

  it('is told in the order of the sentence', () => {
    const { picture } = withPicture({ denoise: 0.5 });
    expect(changesOf(STARTING_RECIPE, { ...withSound({ gainDb: 1, fadeInSeconds: 1 }), picture })).toEqual([
      'noise reduction',
      'gain',
      'fades',
    ]);
  });
});
