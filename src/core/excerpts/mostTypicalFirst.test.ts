import { describe, expect, it } from 'vitest';
import type { CostedGroup } from './costedGroup.ts';
import { mostTypicalFirst } from './mostTypicalFirst.ts';

const group = (index: number, bytes: number): CostedGroup => {
  const cost = { bytes, ssimLoss: 0.05, mse: 8 };
  return { inFrame: index * 50, frameCount: 50, fine: cost, coarse: cost };
};

describe('excerpts that are tried', () => {
  // One hard group, four easy ones, two in between.
  const groups = [90_000, 1000, 1100, 900, 9000, 8000, 1000].map((bytes, index) => group(index, bytes));
  const chosen = [
    { group: 0, reason: 'hardest' },
    { group: 4, reason: 'typical' },
    { group: 1, reason: 'typical' },
  ] as const;

  it('begin with the one that stands for the most frames, and go on as they were chosen', () => {
    expect(mostTypicalFirst(groups, chosen).map((one) => one.group)).toEqual([1, 0, 4]);
  });

  it('stay as they are where the first stands for as much as any, or there is one alone', () => {
    expect(mostTypicalFirst(groups.slice(0, 1), chosen.slice(0, 1))).toEqual(chosen.slice(0, 1));
    const alike = [0, 1].map((index) => group(index, 1000 * (index + 1)));
    expect(
      mostTypicalFirst(alike, chosen.slice(0, 1).concat([{ group: 1, reason: 'typical' }])).map((one) => one.group),
    ).toEqual([0, 1]);
  });
});
