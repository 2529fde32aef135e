import { middleCost, type Cost, type CostedGroup } from './costedGroup.ts';

/** A group of pictures, with what two quick encodes took of it where it was weighed. */
export interface MaybeWeighed {
  readonly inFrame: number;
  readonly frameCount: number;
  readonly costs: Pick<CostedGroup, 'fine' | 'coarse'> | null;
}

/** Weighed groups around one that was not, by which it is guessed: some way to either side, where its scene may be. */
const LOOKED_AT = 8;

/**
 * Costs of all groups where only some were weighed. The others take, for how busy they are, as much as those weighed nearest to
 * them took together; how far such guesses are off is told by guessing those that were weighed.
 *
 * @param groups - All, in order; at least one of them weighed.
 * @param busyness - Of each group, in bits of any encode; null while the programme is not analysed.
 */
export function guessCosts(groups: readonly MaybeWeighed[], busyness: readonly number[] | null): CostedGroup[] {
  const weighed = groups.flatMap(({ inFrame, frameCount, costs }, index) =>
    costs ? [{ index, group: { inFrame, frameCount, ...costs } }] : [],
  );
  if (weighed.length === groups.length) return weighed.map(({ group }) => group);
  const busyOf = (index: number) => Math.max(1, busyness?.[index] ?? groups[index]!.frameCount);
  const guess = (index: number, among: readonly Weighed[]) => {
    const near = nearestOf(index, among);
    const sum = (of: (one: Weighed) => number) => near.reduce((total, one) => total + of(one), 0);
    const share = busyOf(index) / sum((one) => busyOf(one.index));
    const costOf = (kind: 'fine' | 'coarse'): Cost => ({
      bytes: Math.max(1, share * sum(({ group }) => group[kind].bytes)),
      ssimLoss: sum(({ group }) => group[kind].ssimLoss) / near.length,
      mse: sum(({ group }) => group[kind].mse) / near.length,
    });
    return { from: near[Math.floor(near.length / 2)]!.index, fine: costOf('fine'), coarse: costOf('coarse') };
  };
  const off = offOf(weighed, (one) => {
    const { fine, coarse } = guess(
      one.index,
      weighed.filter((other) => other !== one),
    );
    return Math.log(middleCost({ ...one.group, fine, coarse }) / middleCost(one.group));
  });
  return groups.map(({ inFrame, frameCount, costs }, index): CostedGroup => {
    if (costs) return { inFrame, frameCount, ...costs };
    const { from, fine, coarse } = guess(index, weighed);
    return { inFrame, frameCount, fine, coarse, guessed: { from, off } };
  });
}

interface Weighed {
  readonly index: number;
  readonly group: CostedGroup;
}

/** @param among - In order. */
function nearestOf(index: number, among: readonly Weighed[]): readonly Weighed[] {
  const at = among.findIndex((one) => one.index > index);
  const middle = at < 0 ? among.length : at;
  const start = Math.max(0, Math.min(middle - LOOKED_AT / 2, among.length - LOOKED_AT));
  return among.slice(start, start + LOOKED_AT);
}

/** The root of the mean square of what guesses were off by, in logarithms. */
function offOf(weighed: readonly Weighed[], missOf: (one: Weighed) => number): number {
  return Math.sqrt(weighed.reduce((sum, one) => sum + missOf(one) ** 2, 0) / weighed.length);
}
