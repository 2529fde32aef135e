import { describe, expect, it } from 'vitest';
import { seededRandom } from '../../testing/seededRandom.ts';
import { bitsBetween } from '../analysis/busyness.ts';
import { chooseExcerpts } from './chooseExcerpts.ts';
import type { CostedGroup } from './costedGroup.ts';
import { foreseeWhole, SURE } from './foresee.ts';
import { guessCosts } from './guessCosts.ts';
import { busiestBeside, spreadRuns, type GroupRun } from './weighedRuns.ts';

const LENGTH = 50;

const membersOf = (runs: readonly GroupRun[]) =>
  runs.flatMap(({ first, count }) => Array.from({ length: count }, (_, index) => first + index));

describe('groups that are weighed', () => {
  it('are all of a short picture', () => {
    expect(spreadRuns(1, 60)).toEqual([{ first: 0, count: 1 }]);
    expect(spreadRuns(90, 60)).toEqual([{ first: 0, count: 90 }]);
  });

  it.each([91, 100, 360, 1800, 10_801])('are spread over all %i of a long one, none twice', (groups) => {
    const members = membersOf(spreadRuns(groups, 60));
    expect(new Set(members).size).toBe(members.length);
    expect(members).toHaveLength(60);
    expect([Math.min(...members) >= 0, Math.max(...members) < groups]).toEqual([true, true]);
    const gaps = members.map((one, index) => one - (members[index - 1] ?? -1));
    expect(Math.max(...gaps, groups - members.at(-1)!)).toBeLessThanOrEqual(groups / 60 + 1);
  });

  it('are the busiest besides, wherever they lie', () => {
    const runs = spreadRuns(900, 60);
    const members = new Set(membersOf(runs));
    const beside = Array.from({ length: 900 }, (_, index) => index).filter((index) => !members.has(index));
    const busyness = Array.from({ length: 900 }, (_, index) => (index === beside[7] ? 9000 : 100 + (index % 5)));
    const busiest = busiestBeside(runs, busyness);
    expect(busiest[0]).toEqual({ first: beside[7], count: 1 });
    expect(membersOf(busiest).every((index) => !members.has(index))).toBe(true);
  });
});

/** A long programme in scenes of many kinds: what its groups cost, and how busy the analysis found them. */
function drawProgramme(seed: number, groups: number) {
  const random = seededRandom(seed);
  const costs: CostedGroup[] = [];
  const busyness: number[] = [];
  while (costs.length < groups) {
    const [busy, grain] = [Math.exp(2 * random()), 0.3 + 0.6 * random()];
    for (let left = 1 + Math.floor(random() * 8); left > 0 && costs.length < groups; left -= 1) {
      const fine = 20_000 * busy * (0.85 + 0.3 * random());
      costs.push({
        ...{ inFrame: costs.length * LENGTH, frameCount: LENGTH },
        fine: { bytes: fine, ssimLoss: 0.02, mse: 4 },
        coarse: { bytes: fine * grain, ssimLoss: 0.04, mse: 9 },
      });
      busyness.push(fine * grain ** 0.5 * (0.85 + 0.3 * random()));
    }
  }
  return { costs, busyness };
}

function guessFrom(costs: readonly CostedGroup[], busyness: readonly number[] | null, most: number) {
  const members = new Set(membersOf(spreadRuns(costs.length, most)));
  const maybe = costs.map(({ inFrame, frameCount, fine, coarse }, index) => ({
    ...{ inFrame, frameCount },
    costs: members.has(index) ? { fine, coarse } : null,
  }));
  return { guessed: guessCosts(maybe, busyness), members };
}

const sumOf = (costs: readonly CostedGroup[]) => costs.reduce((sum, { coarse }) => sum + coarse.bytes, 0);

describe('costs that are guessed', () => {
  it('are nowhere where all were weighed', () => {
    const { costs } = drawProgramme(1, 40);
    expect(guessFrom(costs, null, 60).guessed).toEqual(costs);
  });

  it('leave what was weighed as it is, and come nearer with the busy-ness of the rest', () => {
    const misses = Array.from({ length: 20 }, (_, seed) => {
      const { costs, busyness } = drawProgramme(seed + 1, 900);
      const [blind, seen] = [guessFrom(costs, null, 60), guessFrom(costs, busyness, 60)];
      for (const index of seen.members) expect(seen.guessed[index]).toEqual(costs[index]);
      const missOf = ({ guessed }: typeof seen) => Math.abs(Math.log(sumOf(guessed) / sumOf(costs)));
      return { blind: missOf(blind), seen: missOf(seen) };
    });
    const mean = (of: 'blind' | 'seen') => misses.reduce((sum, miss) => sum + miss[of], 0) / misses.length;
    expect(mean('seen')).toBeLessThan(0.03);
    expect(mean('seen')).toBeLessThan(mean('blind') / 1.5);
  });

  it('widen the error of a forecast, so that nine of ten wholes lie within it', () => {
    const inside = Array.from({ length: 20 }, (_, seed) => {
      const { costs, busyness } = drawProgramme(seed + 100, 900);
      const random = seededRandom(seed);
      const real = costs.map(({ fine, coarse }) => Math.sqrt(fine.bytes * coarse.bytes) * (0.97 + 0.06 * random()));
      const { guessed, members } = guessFrom(costs, busyness, 60);
      const request = { most: 20, pinned: [], dropped: [], empty: [], sceneStarts: [] };
      const excerpts = chooseExcerpts(guessed, request);
      expect(excerpts.every(({ group }) => members.has(group))).toBe(true);
      const tried = excerpts.map(({ group }) => ({
        ...{ group, bytes: real[group]!, ssimLosses: [0.03], mses: [6], weightedMses: null },
      }));
      const { bytes, error } = foreseeWhole(guessed, tried);
      const miss = Math.abs(Math.log(bytes / real.reduce((sum, one) => sum + one, 0)));
      expect(miss).toBeLessThan(0.12);
      return miss < error * SURE;
    });
    expect(inside.filter(Boolean).length).toBeGreaterThanOrEqual(18);
  });
});

describe('how busy a stretch is', () => {
  const busyness = { stepSeconds: 0.5, bits: [10, 20, 40, 80] };
  it('is the sum of its half seconds, those in part in part', () => {
    expect(bitsBetween(busyness, 0, 2)).toBe(150);
    expect(bitsBetween(busyness, 0.25, 1)).toBeCloseTo(25, 9);
    expect(bitsBetween(busyness, 1.75, 9)).toBeCloseTo(40, 9);
    expect(bitsBetween(busyness, 3, 4)).toBe(0);
  });
});
