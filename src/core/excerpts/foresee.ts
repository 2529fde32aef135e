import { distanceOf, shareOut, type CostedGroup } from './costedGroup.ts';

/** What a group of pictures came to at one setting. */
export interface TriedGroup {
  /** Index among the groups. */
  readonly group: number;
  readonly bytes: number;
  /** Of each of its frames, in one measure or another. */
  readonly quality: readonly number[];
}

/** A whole that was foreseen from its excerpts. */
export interface Foreseen {
  readonly bytes: number;
  /** The standard error of the logarithm of the bytes. */
  readonly error: number;
  /** Share of all frames that were tried. */
  readonly tried: number;
  /** Mean and 5th percentile over all frames, each excerpt's weighing as much as those it stands for. */
  readonly mean: number;
  readonly fifth: number;
}

/** Standard errors to either side between which nine of ten lie. */
export const SURE = 1.645;

/** Restarts, rounding, and what else a perfect choice would still miss (measured: 1 to 2 %). */
const LEAST_ERROR = 0.008;

/** Weights between the two costs that are tried: 0 is the coarse one alone, 1 the fine one. */
const WEIGHTS = Array.from({ length: 13 }, (_, index) => -0.5 + index / 6);

/** An even weight is kept unless another is better by so much: few excerpts prove little. */
const DOUBT = 0.05;

/**
 * The whole of a portion from what some excerpts came to. Each group takes as much as its excerpt did, by the ratio of their
 * costs; between the two costs those excerpts decide that were tried. How far it may be off is read from how much neighbouring
 * excerpts disagree for each step they lie apart.
 *
 * @param tried - Each group once; at least one.
 */
export function foreseeWhole(groups: readonly CostedGroup[], tried: readonly TriedGroup[]): Foreseen {
  const weight = chooseWeight(groups, tried);
  const costs = groups.map((group) => costAt(group, weight));
  const members = shareOut(
    groups,
    tried.map(({ group }) => group),
  );
  const shares = tried.map(({ group, bytes }) => {
    const ratio = bytes / costs[group]!;
    const others = members.get(group)!.filter((member) => member !== group);
    const foreseen = others.reduce((sum, member) => sum + costs[member]! * ratio, 0);
    const apart = others.reduce((sum, member) => sum + costs[member]! * distanceOf(groups[member]!, groups[group]!), 0);
    const weighed = others.reduce((sum, member) => sum + costs[member]!, 0);
    return { bytes: bytes + foreseen, foreseen, apart: weighed > 0 ? apart / weighed : 0 };
  });
  const bytes = shares.reduce((sum, share) => sum + share.bytes, 0);
  const { perStep, atAll } = disagreement(groups, tried, costs);
  const variance = shares.reduce(
    (sum, { foreseen, apart }) => sum + ((foreseen / bytes) * Math.hypot(apart * perStep, atAll)) ** 2,
    0,
  );
  const frames = groups.reduce((sum, { frameCount }) => sum + frameCount, 0);
  const own = tried.reduce((sum, { group }) => sum + groups[group]!.frameCount, 0);
  const isWhole = own === frames;
  return {
    bytes,
    error: isWhole ? 0 : Math.hypot(Math.sqrt(variance), LEAST_ERROR),
    tried: own / frames,
    ...poolQuality(groups, members, tried),
  };
}

function costAt({ fine, coarse }: CostedGroup, weight: number): number {
  return Math.exp(Math.log(fine) * weight + Math.log(coarse) * (1 - weight));
}

/** The weight by which all excerpts take most nearly the same for each byte of their cost. */
function chooseWeight(groups: readonly CostedGroup[], tried: readonly TriedGroup[]): number {
  if (tried.length < 4) return 0.5;
  const spread = (weight: number) => {
    const logs = tried.map(({ group, bytes }) => Math.log(bytes / costAt(groups[group]!, weight)));
    const mean = logs.reduce((sum, log) => sum + log, 0) / logs.length;
    return (
      Math.sqrt(logs.reduce((sum, log) => sum + (log - mean) ** 2, 0) / logs.length) + DOUBT * Math.abs(weight - 0.5)
    );
  };
  return WEIGHTS.reduce((a, b) => (spread(b) < spread(a) ? b : a));
}

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
  tried: readonly TriedGroup[],
  costs: readonly number[],
): Disagreement {
  if (tried.length < 2) return UNCOMPARED;
  const pairs = tried.map((one) => {
    const apart = (other: TriedGroup) => distanceOf(groups[one.group]!, groups[other.group]!);
    const next = tried.filter((other) => other !== one).reduce((a, b) => (apart(b) < apart(a) ? b : a));
    const ratio = (of: TriedGroup) => Math.log(of.bytes / costs[of.group]!);
    return { off: Math.abs(ratio(one) - ratio(next)), apart: Math.max(0.05, apart(next)) };
  });
  const perStep = Math.sqrt(pairs.reduce((sum, { off, apart }) => sum + (off / apart) ** 2, 0) / pairs.length);
  const offs = pairs.map(({ off }) => off).toSorted((a, b) => a - b);
  return { perStep, atAll: offs[Math.floor(offs.length / 2)]! * 0.75 };
}

function poolQuality(
  groups: readonly CostedGroup[],
  members: ReadonlyMap<number, readonly number[]>,
  tried: readonly TriedGroup[],
): { mean: number; fifth: number } {
  const weighed = tried.flatMap(({ group, quality }) => {
    const frames = members.get(group)!.reduce((sum, member) => sum + groups[member]!.frameCount, 0);
    return quality.map((value) => ({ value, weight: frames / quality.length }));
  });
  const total = weighed.reduce((sum, { weight }) => sum + weight, 0);
  const mean = weighed.reduce((sum, { value, weight }) => sum + value * weight, 0) / total;
  let below = 0;
  const fifth = weighed.toSorted((a, b) => a.value - b.value).find(({ weight }) => (below += weight) >= total * 0.05);
  return { mean, fifth: fifth?.value ?? mean };
}
