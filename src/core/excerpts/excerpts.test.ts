import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { chooseExcerpts, type ExcerptRequest } from './chooseExcerpts.ts';
import { middleCost, shareOut, type CostedGroup } from './costedGroup.ts';
import { foreseeWhole, SURE, type TriedGroup } from './foresee.ts';

const LENGTH = 50;
const PLAIN: ExcerptRequest = { most: 4, pinned: [], dropped: [], empty: [], sceneStarts: [] };

function groupsOf(costs: readonly (readonly [fine: number, coarse: number])[]): CostedGroup[] {
  return costs.map(([fine, coarse], index) => ({
    ...{ inFrame: index * LENGTH, frameCount: LENGTH },
    fine: { bytes: fine, ssimLoss: 0.02, mse: 4 },
    coarse: { bytes: coarse, ssimLoss: 0.04, mse: 9 },
  }));
}

/** Three kinds of scene: still, moving, grainy. */
const VARIED = groupsOf([
  ...Array.from({ length: 10 }, (_, index) => [1000 + index, 600] as const),
  ...Array.from({ length: 10 }, (_, index) => [8000 + index * 10, 4000] as const),
  ...Array.from({ length: 10 }, (_, index) => [30_000 + index * 10, 5000] as const),
]);

const anyGroups = fc
  .array(fc.tuple(fc.integer({ min: 50, max: 200_000 }), fc.double({ min: 0.1, max: 0.9, noNaN: true })), {
    minLength: 1,
    maxLength: 60,
  })
  .map((costs) => groupsOf(costs.map(([fine, share]) => [fine, Math.max(1, fine * share)])));

describe('excerpts', () => {
  it('take the hardest group, and one of each kind', () => {
    const chosen = chooseExcerpts(VARIED, PLAIN).map(({ group }) => Math.floor(group / 10));
    expect(new Set(chosen)).toEqual(new Set([0, 1, 2]));
    expect(chooseExcerpts(VARIED, PLAIN)[0]).toEqual({ group: 29, reason: 'hardest' });
  });

  it('are the same every time, as many as asked for, and stay when more are asked for', () => {
    fc.assert(
      fc.property(anyGroups, fc.integer({ min: 1, max: 12 }), (groups, most) => {
        const few = chooseExcerpts(groups, { ...PLAIN, most });
        const many = chooseExcerpts(groups, { ...PLAIN, most: most + 3 });
        expect(few.length).toBeLessThanOrEqual(Math.min(most, groups.length));
        expect(few.length).toBeGreaterThan(0);
        expect(many.slice(0, few.length)).toEqual(few);
        expect(new Set(many.map(({ group }) => group)).size).toBe(many.length);
        const hardest = Math.max(...groups.map(middleCost));
        expect(few.some(({ group }) => middleCost(groups[group]!) === hardest)).toBe(true);
      }),
    );
  });

  it('are none in what is dropped or empty, unless there is nothing else', () => {
    const dropped = [{ inFrame: 20 * LENGTH, outFrame: 30 * LENGTH - 1 }];
    const empty = [{ inFrame: 0, outFrame: 10 * LENGTH - 1 }];
    const chosen = chooseExcerpts(VARIED, { ...PLAIN, dropped, empty });
    expect(chosen.every(({ group }) => group >= 10 && group < 20)).toBe(true);
    const all = [{ inFrame: 0, outFrame: 30 * LENGTH - 1 }];
    expect(chooseExcerpts(VARIED, { ...PLAIN, dropped: all })).not.toHaveLength(0);
  });

  it('take what is pinned first', () => {
    const pinned = [{ inFrame: 3 * LENGTH + 10, outFrame: 3 * LENGTH + 20 }];
    expect(chooseExcerpts(VARIED, { ...PLAIN, pinned }).slice(0, 2)).toEqual([
      { group: 3, reason: 'pinned' },
      { group: 29, reason: 'hardest' },
    ]);
  });

  it('begin with a scene where one as good does', () => {
    const alike = groupsOf([[9000, 100], ...Array.from({ length: 9 }, () => [1000, 500] as const)]);
    const sceneStarts = [6 * LENGTH + 2];
    expect(chooseExcerpts(alike, { ...PLAIN, most: 2, sceneStarts })[1]?.group).toBe(6);
  });

  it('share all groups out among themselves, each to what is like it', () => {
    const chosen = chooseExcerpts(VARIED, PLAIN).map(({ group }) => group);
    const members = shareOut(VARIED, chosen);
    expect([...members.values()].flat().toSorted((a, b) => a - b)).toEqual([...VARIED.keys()]);
    for (const [group, own] of members) {
      expect(own.every((member) => Math.floor(member / 10) === Math.floor(group / 10))).toBe(true);
    }
  });
});

const LOST = { ssimLosses: [0.1], mses: [4], weightedMses: null };

describe('a whole foreseen from its excerpts', () => {
  const tryAll = (groups: readonly CostedGroup[], take: (group: CostedGroup) => number, most: number): TriedGroup[] =>
    chooseExcerpts(groups, { ...PLAIN, most }).map(({ group }) => ({
      group,
      bytes: take(groups[group]!),
      ...LOST,
    }));

  it('is exact where an encoder follows the costs, whatever the groups', () => {
    fc.assert(
      fc.property(anyGroups, fc.double({ min: 0.05, max: 20, noNaN: true }), (groups, times) => {
        const take = (one: CostedGroup) => middleCost(one) * times;
        const foreseen = foreseeWhole(groups, tryAll(groups, take, 6));
        const whole = groups.reduce((sum, one) => sum + take(one), 0);
        expect(foreseen.bytes / whole).toBeCloseTo(1, 6);
      }),
    );
  });

  it('is certain where all of it was tried', () => {
    const take = ({ fine }: CostedGroup) => fine.bytes / 3 + 17;
    const all = VARIED.map((group, index) => ({ group: index, bytes: take(group), ...LOST }));
    expect(foreseeWhole(VARIED, all)).toMatchObject({
      bytes: VARIED.reduce((sum, one) => sum + take(one), 0),
      error: 0,
      tried: 1,
    });
  });

  it('keeps its bars where groups scatter about their costs', () => {
    const runs = 300;
    let inside = 0;
    const scattered = fc.array(
      fc.record({
        cost: fc.integer({ min: 50, max: 200_000 }),
        share: fc.double({ min: 0.1, max: 0.9, noNaN: true }),
        noise: fc.double({ min: 0.85, max: 1.18, noNaN: true }),
      }),
      { minLength: 21, maxLength: 60 },
    );
    fc.assert(
      fc.property(scattered, (made) => {
        const groups = groupsOf(made.map(({ cost, share }) => [cost, Math.max(1, cost * share)]));
        const sizes = groups.map((group, index) => middleCost(group) * made[index]!.noise);
        const tried = chooseExcerpts(groups, { ...PLAIN, most: 8 }).map(({ group }) => ({
          group,
          bytes: sizes[group]!,
          ...LOST,
        }));
        const { bytes, error } = foreseeWhole(groups, tried);
        const whole = sizes.reduce((sum, one) => sum + one, 0);
        if (Math.abs(Math.log(bytes / whole)) <= error * SURE) inside += 1;
      }),
      { numRuns: runs, seed: 11, endOnFailure: true },
    );
    expect(inside).toBeGreaterThan(runs * 0.85);
  });

  it('stays with what is possible where two excerpts alike disagree and the rest is far off', () => {
    const far = groupsOf([
      [1000, 500],
      [1040, 520],
      [40_000, 9000],
      [90_000, 20_000],
    ]);
    const tried = [
      { group: 0, bytes: 1000, ...LOST },
      { group: 1, bytes: 1500, ...LOST },
    ];
    const { error } = foreseeWhole(far, tried);
    expect(error).toBeGreaterThan(0.3);
    expect(error).toBeLessThan(0.8);
  });

  it('weighs losses by what each excerpt stands for', () => {
    const tried = [
      { group: 0, bytes: 1, ssimLosses: [0.01, 0.03], mses: [1, 1], weightedMses: [2, 2] },
      { group: 15, bytes: 1, ssimLosses: [0.1, 0.1], mses: [2, 2], weightedMses: [4, 4] },
      { group: 29, bytes: 1, ssimLosses: [0.5, 0.3], mses: [3, 3], weightedMses: [6, 6] },
    ];
    const { ssimLoss, mse, weightedMse } = foreseeWhole(VARIED, tried);
    expect(ssimLoss.mean).toBeCloseTo((0.02 + 0.1 + 0.4) / 3, 9);
    expect(ssimLoss.worstTwentieth).toBe(0.5);
    expect(mse.mean).toBeCloseTo(2, 9);
    expect(weightedMse).toEqual({ mean: expect.closeTo(4, 9) as number, worstTwentieth: 6 });
    // One excerpt that was not weighed so leaves the whole unknown.
    expect(foreseeWhole(VARIED, [...tried.slice(1), { ...tried[0]!, weightedMses: null }]).weightedMse).toBeNull();
  });

  it('foresees losses by those of the quick encodes', () => {
    const groups = VARIED.map((group, index) => ({
      ...group,
      fine: { ...group.fine, ssimLoss: 0.01 * (index + 1) },
      coarse: { ...group.coarse, ssimLoss: 0.02 * (index + 1) },
    }));
    const tried = [0, 12, 20, 29].map((group) => ({
      group,
      bytes: 1,
      ...LOST,
      ssimLosses: [0.015 * (group + 1)],
      mses: [1],
    }));
    expect(foreseeWhole(groups, tried).ssimLoss.mean).toBeCloseTo((0.015 * (30 * 31)) / 2 / 30, 6);
  });
});
