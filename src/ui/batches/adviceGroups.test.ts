import { describe, expect, it } from 'vitest';
import type { BatchPlanRow } from '../../contract/batch.ts';
import type { Advisory } from '../../core/advice/advisory.ts';
import { STARTING_RECIPE } from '../../core/recipe/recipe.ts';
import { groupAdvice } from './adviceGroups.ts';
import { editOrder, foreseeRow, SOUND_ALONE, UNCHANGED, withEdit } from './rowEdits.ts';

const crop = { top: 140, bottom: 140, left: 0, right: 0 };
const BARS: Advisory = {
  ...{ code: 'bars', severity: 'caution', message: 'Black bars (140 top, 140 bottom).', remedy: '' },
  fix: { kind: 'crop', label: 'Crop the bars off', crop },
};
const SILENT: Advisory = { code: 'sound-silent', severity: 'serious', message: 'It is silent.', remedy: '' };
const SMALL: Advisory = {
  ...{ code: 'cap-near-floor', severity: 'caution', message: 'The cap is low.', remedy: '' },
  fix: { kind: 'fit', label: 'Take 540 lines', height: 540 },
};

const row = (
  programmeName: string,
  advisories: readonly Advisory[],
  reason: BatchPlanRow['reason'] = null,
): BatchPlanRow => ({
  ...{ programmeId: programmeName, programmeName, recipe: STARTING_RECIPE, portion: null, isLeftOut: false },
  ...{ sentence: '', bent: [], state: reason ? 'cannot' : 'ready', reason, seconds: 60 },
  ...{ expected: null, isGuess: false, workSeconds: null, advisories },
});

describe('what is told of several files alike', () => {
  it('stands once, the serious first, with what mends all of them', () => {
    const rows = [row('A', [BARS]), row('B', [SILENT, BARS]), row('C', [SILENT]), row('D', [])];
    expect(groupAdvice(rows)).toEqual([
      {
        key: 'sound-silent ',
        severity: 'serious',
        message: 'It is silent.',
        programmes: 2,
        name: null,
        rows: [1, 2],
        fixes: [],
        label: null,
      },
      {
        ...{ key: 'bars crop', severity: 'caution', message: BARS.message, programmes: 2, name: null, rows: [0, 1] },
        fixes: [
          { row: 0, edit: BARS.fix },
          { row: 1, edit: BARS.fix },
        ],
        label: 'Crop the bars off, in all 2',
      },
    ]);
  });

  it('is told of the first by name where it is told otherwise of others', () => {
    const other: Advisory = {
      ...SMALL,
      message: 'The cap is very low.',
      fix: { kind: 'fit', label: 'Take 360 lines', height: 360 },
    };
    const [group] = groupAdvice([row('A', [SMALL]), row('B', [other])]);
    expect(group).toMatchObject({ name: 'A', message: 'The cap is low.', label: 'Mend all 2' });
  });

  it('is told by name of one programme that is made several times', () => {
    const [group] = groupAdvice([row('A', [BARS]), row('A', [BARS])]);
    expect(group).toMatchObject({ name: 'A', programmes: 1, rows: [0, 1] });
  });

  it('is no group of one, nor of what is left out', () => {
    expect(groupAdvice([row('A', [BARS]), { ...row('B', [BARS]), isLeftOut: true }])).toEqual([]);
  });

  it('is what cannot be made as well', () => {
    const reason = { code: 'no-picture', message: 'This programme has sound only.' } as const;
    const [group] = groupAdvice([row('A', [], reason), row('B', [], reason)]);
    expect(group).toMatchObject({ severity: 'serious', rows: [0, 1], label: 'Make its sound alone, in all 2' });
  });
});

describe('what is done to a row', () => {
  const first = { recipe: STARTING_RECIPE, portion: null };

  it('is done one after another, over whatever it is at first', () => {
    const edits = [BARS.fix, { kind: 'portion', label: '', portion: { inFrame: 5, outFrame: 9 } }, SMALL.fix] as const;
    const after = editOrder(first, edits as Parameters<typeof editOrder>[1]);
    expect(after.portion).toEqual({ inFrame: 5, outFrame: 9 });
    expect(after.recipe.picture).toMatchObject({ crop, fit: { height: 540 } });
    expect(editOrder(after, [{ kind: 'whole' }]).portion).toBeNull();
    expect(editOrder(after, [{ kind: 'sound-only', label: '' }]).recipe).toMatchObject({
      video: null,
      name: STARTING_RECIPE.name,
    });
  });

  it('is seen at once, before it is planned again', () => {
    const before = row('A', [BARS, SMALL]);
    const after = foreseeRow(before, before, { edits: [BARS.fix as never], isLeftOut: true });
    expect(after).toMatchObject({ isLeftOut: true, recipe: { picture: { crop } }, advisories: [{ code: SMALL.code }] });
    const silent = row('B', [], { code: 'no-picture', message: 'This programme has sound only.' });
    const alone = foreseeRow(silent, silent, withEdit(UNCHANGED, SOUND_ALONE));
    expect(alone).toMatchObject({ state: 'ready', reason: null, recipe: { video: null } });
  });

  it('keeps of two orders of its own, one after the other, the second', () => {
    const own = (name: string) => ({ kind: 'own', recipe: { ...STARTING_RECIPE, name } }) as const;
    const change = [own('A'), own('B')].reduce(withEdit, UNCHANGED);
    expect(change.edits).toEqual([own('B')]);
    expect(editOrder(first, change.edits).recipe.name).toBe('B');
  });
});
