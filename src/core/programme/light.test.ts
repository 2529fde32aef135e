import { describe, expect, it } from 'vitest';
import type { LightLevels } from './facts.ts';
import { nameLight, sameLight, tellableLight } from './light.ts';

const LIGHT: LightLevels = {
  masteringLeast: 0.005,
  masteringMost: 1000,
  contentMost: 900,
  frameAverageMost: null,
  masteringColour: { red: [0.68, 0.32], green: [0.265, 0.69], blue: [0.15, 0.06], white: [0.3127, 0.329] },
};

describe('light', () => {
  it('is said as far as it is told', () => {
    expect(nameLight(LIGHT)).toBe('mastered at 0.005 to 1000 cd/m², brightest pixel 900 cd/m²');
    expect(nameLight({ masteringLeast: null, masteringMost: null, contentMost: null, frameAverageMost: null })).toBe(
      '',
    );
  });

  it.each<[string, Partial<LightLevels>, Partial<LightLevels> | null]>([
    ['as it is, the frame average of which nothing is known', {}, { frameAverageMost: 0 }],
    [
      'of its content alone where its display is told in part',
      { masteringColour: null },
      { masteringColour: null, masteringLeast: null, masteringMost: null, frameAverageMost: 0 },
    ],
    ['of its display alone where its content is not known', { contentMost: 0 }, { contentMost: null }],
    ['nothing where nothing is whole', { masteringColour: null, contentMost: 0 }, null],
  ])('can be told %s', (_name, changes, told) => {
    expect(tellableLight({ ...LIGHT, ...changes })).toEqual(told && { ...LIGHT, ...told });
  });

  it.each<[string, Partial<LightLevels>, boolean]>([
    ['the same', {}, true],
    ['the least rounded to a step', { masteringLeast: 82 / 16384 }, true],
    ['a display ten times as bright', { masteringMost: 10_000 }, false],
    ['brightest pixels that are not told', { contentMost: null }, false],
    ['a frame average that is', { frameAverageMost: 400 }, false],
    ['another red', { masteringColour: { ...LIGHT.masteringColour!, red: [0.708, 0.292] } }, false],
    ['no colour of its display', { masteringColour: null }, false],
  ])('with %s', (_name, changes, isSame) => {
    expect(sameLight(LIGHT, { ...LIGHT, ...changes })).toBe(isSame);
  });
});
