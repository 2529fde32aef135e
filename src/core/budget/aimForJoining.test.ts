import { describe, expect, it } from 'vitest';
import { bitsPerSecond, bytes } from '../units.ts';
import { aimForJoining } from './aimForJoining.ts';
import type { WeighedPass } from './joinPasses.ts';

const CAP = bytes(1_000_000);
const FIXED = 40_000;

function pass(groups: readonly number[]): WeighedPass {
  const videoBytes = groups.reduce((sum, group) => sum + group, 0);
  const weighed = { videoBytes: bytes(videoBytes), fileBytes: bytes(videoBytes + FIXED) };
  return { asked: bitsPerSecond(1e6), ...weighed, meanQuantiser: 28, groups };
}

/** A pass of a file of this share of the cap, its groups as given shares of the picture. */
const alike = (share: number, groups = [0.3, 0.34, 0.36]) =>
  pass(groups.map((group) => Math.round((CAP * share - FIXED) * group)));

describe('what to aim at, with few groups of pictures', () => {
  it('is on the other side of the cap, so that groups of both fill it', () => {
    expect(aimForJoining(CAP, [alike(1.02)], false)).toBeLessThan(0.98);
    expect(aimForJoining(CAP, [alike(0.97)], false)).toBeGreaterThan(1);
  });

  it('is the cap itself where one group answers for all and nothing can be made up', () => {
    const passes = [pass([275_000, 60_000, 570_000]), pass([345_000, 60_000, 572_000])];
    const aim = aimForJoining(CAP, passes, false)!;
    expect(aim).toBeGreaterThanOrEqual(0.99);
    expect(aim).toBeLessThanOrEqual(1);
  });

  it('is lower for the last pass while nothing has come under the cap', () => {
    const over = [alike(1.06, [0.5, 0.5]), alike(1.03, [0.5, 0.5])];
    expect(aimForJoining(CAP, over, true)!).toBeLessThan(aimForJoining(CAP, [alike(0.97), ...over], true)!);
    expect(aimForJoining(CAP, over, true)!).toBeLessThan(0.99);
  });

  it('is a share of the cap even where sound and container take nearly all of it', () => {
    const crowded = { ...alike(1.02), videoBytes: bytes(30_000), groups: [9_000, 10_000, 11_000] };
    const aim = aimForJoining(CAP, [crowded], false)!;
    expect(aim).toBeGreaterThan(0.99);
    expect(aim).toBeLessThanOrEqual(1.025);
  });

  it('is not said for one group, for passes that cannot be joined, or for so many groups that any will do', () => {
    expect(aimForJoining(CAP, [alike(1.02, [1])], false)).toBeNull();
    expect(aimForJoining(CAP, [{ ...alike(1.02), groups: [] }], false)).toBeNull();
    const many = Array.from({ length: 40 }, () => 1 / 40);
    expect(aimForJoining(CAP, [alike(1.02, many)], false)).toBeNull();
  });
});
