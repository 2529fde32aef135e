import { describe, expect, it } from 'vitest';
import { defaultsFor } from './folderDefaults.ts';

const DEFAULTS = {
  recipeId: 'web',
  folders: [
    { folder: '/media/talks', recipeId: 'talk', output: null },
    { folder: '/media/talks/short', recipeId: null, output: '/out/short' },
  ],
};

describe('what holds for a master', () => {
  it('is said by the innermost of its folders, and what that leaves open holds for all', () => {
    expect(defaultsFor(DEFAULTS, '/media/film.mov')).toEqual({ recipeId: 'web', output: null });
    expect(defaultsFor(DEFAULTS, '/media/talks/a.mov')).toEqual({ recipeId: 'talk', output: null });
    expect(defaultsFor(DEFAULTS, '/media/talks/short/a.mov')).toEqual({ recipeId: 'web', output: '/out/short' });
  });

  it('goes by whole names of folders', () => {
    expect(defaultsFor(DEFAULTS, '/media/talks-2/a.mov').recipeId).toBe('web');
  });
});
