import { distanceOf, shareOut, type Cost, type CostedGroup } from './costedGroup.ts';

/** What a group of pictures came to at one setting. */
export interface TriedGroup {
  /** Index among the groups. */
  readonly group: number;
  readonly bytes: number;
  /** Of each of its frames: what SSIM misses of 1, and the mean squared error. */
  readonly ssimLosses: readonly number[];
  readonly mses: readonly number[];
  /** The same error weighted by what the eye sees; null where it was not measured. */
  readonly weightedMses: readonly number[] | null;
}

/** A whole that was foreseen from its excerpts. */
export interface Foreseen {
  readonly bytes: number;
  /** The standard error of the logarithm of the bytes. */
  readonly error: number;
  /** Share of all frames that were tried. */
  readonly tried: number;
  /** Over all frames: the mean, and what one of twenty frames is worse than. */
  readonly ssimLoss: PooledLoss;
  readonly mse: PooledLoss;
  /** null where any excerpt lacks it. */
  readonly weightedMse: PooledLoss | null;
}

interface PooledLoss {
  readonly mean: number;
  readonly worstTwentieth: number;
}

/** Standard errors to either side between which nine of ten lie. */
export const SURE = 1.645;

/** Restarts, rounding, and what else a perfect choice would still miss (measured: 1 to 2 %). */
const LEAST_ERROR = 0.008;

/** Weights between the two costs that are tried: 0 is the coarse one alone, 1 the fine one. */
const WEIGHTS = Array.from({ length: 13 }, (_, index) => -0.5 + index / 6);

/** An even weight is kept unless another is better by so much: few excerpts prove little. */
const DOUBT = 0.05;

/** So many excerpts at least choose a weight. */
const FEWEST_TO_CHOOSE = 4;

/**
 * The whole of a portion from what some of its groups came to. Each group takes, and loses, as much as the excerpt that is most
 * like it did, by the ratio of what both took and lost in quick encodes; between the two quick encodes the excerpts decide. How
 * far it may be off is read from how much neighbouring excerpts disagree.
 *
 * @param tried - Each group once; at least one.
 */
export function foreseeWhole(groups: readonly CostedGroup[], tried: readonly TriedGroup[]): Foreseen {
  const members = shareOut(
    groups,
    tried.map(({ group }) => group),
  );
  const frames = groups.reduce((sum, { frameCount }) => sum + frameCount, 0);
  const own = tried.reduce((sum, { group }) => sum + groups[group]!.frameCount, 0);
  const pool = (cost: 'ssimLoss' | 'mse', lossesOf: (one: TriedGroup) => readonly number[]) =>
    poolLosses(groups, members, tried, cost, lossesOf);
  return {
    ...foreseeBytes(groups, members, tried, own === frames),
    tried: own / frames,
    ssimLoss: pool('ssimLoss', ({ ssimLosses }) => ssimLosses),
    mse: pool('mse', ({ mses }) => mses),
    weightedMse: tried.every(({ weightedMses }) => weightedMses)
      ? pool('mse', ({ weightedMses }) => weightedMses ?? [])
      : null,
  };
}

type Members = ReadonlyMap<number, readonly number[]>;

function foreseeBytes(
  groups: readonly CostedGroup[],
  members: Members,
  tried: readonly TriedGroup[],
  isWhole: boolean,
): Pick<Foreseen, 'bytes' | 'error'> {
  const values = tried.map(({ group, bytes }) => ({ group, value: bytes }));
  const costs = costsBy(groups, 'bytes', chooseWeight(groups, 'bytes', values));
  const shares = tried.map(({ group, bytes }) => {
    const others = members.get(group)!.filter((member) => member !== group);
    const weighed = others.reduce((sum, member) => sum + costs[member]!, 0);
    const apart = others.reduce((sum, member) => sum + costs[member]! * distanceOf(groups[member]!, groups[group]!), 0);
    return { bytes, foreseen: (weighed * bytes) / costs[group]!, apart: weighed > 0 ? apart / weighed : 0 };
  });
  const bytes = shares.reduce((sum, share) => sum + share.bytes + share.foreseen, 0);
  const { perStep, atAll } = disagreement(groups, values, costs);
  const variance = shares.reduce((sum, { foreseen, apart }) => {
    const off = Math.hypot(Math.min(FURTHEST_OFF, apart * perStep), Math.min(FURTHEST_OFF, atAll));
    return sum + ((foreseen / bytes) * off) ** 2;
  }, 0);
  const guessing = guessedError(groups, costs);
  return { bytes, error: isWhole ? 0 : Math.hypot(Math.sqrt(variance), guessing, LEAST_ERROR) };
}

/** What guessed groups may be off by together: those that were guessed by one are off alike, others are not. */
function guessedError(groups: readonly CostedGroup[], costs: readonly number[]): number {
  const offs = new Map<number, number>();
  groups.forEach(({ guessed }, index) => {
    if (guessed) offs.set(guessed.from, (offs.get(guessed.from) ?? 0) + costs[index]! * guessed.off);
  });
  const whole = costs.reduce((sum, cost) => sum + cost, 0);
  return Math.sqrt([...offs.values()].reduce((sum, off) => sum + (off / whole) ** 2, 0));
}

interface TriedValue {
  readonly group: number;
  readonly value: number;
}

function costsBy(groups: readonly CostedGroup[], of: keyof Cost, weight: number): number[] {
  return groups.map(({ fine, coarse }) => Math.exp(Math.log(fine[of]) * weight + Math.log(coarse[of]) * (1 - weight)));
}

/** The weight by which all excerpts come most nearly to the same for their cost. */
function chooseWeight(groups: readonly CostedGroup[], of: keyof Cost, tried: readonly TriedValue[]): number {
  if (tried.length < FEWEST_TO_CHOOSE) return 0.5;
  const some = tried.map(({ group }) => groups[group]!);
  const spread = (weight: number) => {
    const costs = costsBy(some, of, weight);
    const logs = tried.map(({ value }, index) => Math.log(value / costs[index]!));
    const mean = logs.reduce((sum, log) => sum + log, 0) / logs.length;
    const variance = logs.reduce((sum, log) => sum + (log - mean) ** 2, 0) / logs.length;
    return Math.sqrt(variance) + DOUBT * Math.abs(weight - 0.5);
  };
  return WEIGHTS.reduce((a, b) => (spread(b) < spread(a) ? b : a));
}

/**
 * However unlike its excerpt, a group is believed to miss by this logarithm at most: two excerpts alike that disagree would let one
 * reckon with a thousandfold for others far off, which no quick encode ever missed by. Assumed, no source.
 */
const FURTHEST_OFF = 0.5;

/** With one excerpt alone nothing can be compared: what was usual (measured, demonstration). */
const UNCOMPARED: Disagreement = { perStep: 0.5, atAll: 0.1 };

/** How far the logarithms of excerpts' ratios lie apart: for each step of their distance, and however near they are. */
interface Disagreement {
  readonly perStep: number;
  readonly atAll: number;
}

/** Each excerpt is held against the one that is most like it. */
function disagreement(
  groups: readonly CostedGroup[],
  tried: readonly TriedValue[],
  costs: readonly number[],
): Disagreement {
  if (tried.length < 2) return UNCOMPARED;
  const pairs = tried.map((one) => {
    const apart = (other: TriedValue) => distanceOf(groups[one.group]!, groups[other.group]!);
    const next = tried.filter((other) => other !== one).reduce((a, b) => (apart(b) < apart(a) ? b : a));
    const ratio = (of: TriedValue) => Math.log(of.value / costs[of.group]!);
    return { off: Math.abs(ratio(one) - ratio(next)), apart: Math.max(0.05, apart(next)) };
  });
  const perStep = Math.sqrt(pairs.reduce((sum, { off, apart }) => sum + (off / apart) ** 2, 0) / pairs.length);
  const offs = pairs.map(({ off }) => off).toSorted((a, b) => a - b);
  return { perStep, atAll: offs[Math.floor(offs.length / 2)]! };
}

/** Every group's frames lose as its excerpt's did, by the ratio of what both lost in the quick encodes. */
function poolLosses(
  groups: readonly CostedGroup[],
  members: Members,
  tried: readonly TriedGroup[],
  of: 'ssimLoss' | 'mse',
  lossesOf: (one: TriedGroup) => readonly number[],
): PooledLoss {
  const meanOf = (losses: readonly number[]) => losses.reduce((sum, loss) => sum + loss, 0) / losses.length;
  const values = tried.map((one) => ({ group: one.group, value: Math.max(1e-9, meanOf(lossesOf(one))) }));
  const costs = costsBy(groups, of, chooseWeight(groups, of, values));
  const weighed = tried.flatMap((one) => {
    const losses = lossesOf(one);
    return members.get(one.group)!.flatMap((member) => {
      const ratio = costs[member]! / costs[one.group]!;
      const weight = groups[member]!.frameCount / losses.length;
      return losses.map((loss) => ({ loss: loss * ratio, weight }));
    });
  });
  const total = weighed.reduce((sum, { weight }) => sum + weight, 0);
  const mean = weighed.reduce((sum, { loss, weight }) => sum + loss * weight, 0) / total;
  let above = 0;
  const worst = weighed.toSorted((a, b) => b.loss - a.loss).find(({ weight }) => (above += weight) >= total / 20);
  return { mean, worstTwentieth: worst?.loss ?? mean };
}
