import type { Bytes } from '../units.ts';
import type { QualityScale } from '../video/definition.ts';
import { chooseGroups } from './chooseGroups.ts';
import type { GroupSource, GroupStock, StockedGroup } from './groupStock.ts';
import { toStep } from '../video/qualityStep.ts';
import { USUAL_SHARE, type WeighedRetouch } from './weighed.ts';

/** Which group of pictures to encode again by itself, and at which constant quality. */
export interface RetouchAim {
  readonly group: number;
  readonly quality: number;
}

/** A group is made this much larger or smaller at most: more would be seen beside its neighbours. */
const MOST_CHANGE = 1.5;

/**
 * However little a group answers to, it is asked for no quality further off than so many times what that change takes as a
 * rule: behind a flat stretch of the scale there may be a cliff.
 */
const FURTHEST = 1.5;

/** A group that does not answer after so many tries is left to the others. */
const MOST_TRIES = 4;

/**
 * What counts against a group that can make up only a part of what is missing, for the part it cannot: others would have to follow. Where
 * half a programme is calm and half has grain, a simulated encoder filled sizes with 1.75 encodes instead of 2.03 so.
 */
const COST_OF_A_PART = 2;

/** What counts against a group for each try it had, as a share of the way from the best choice to the worst. */
const COST_OF_A_TRY = 0.1;

/**
 * And for one that came out so many times further off than any group is asked for: there is a cliff, as where grain is kept on one side
 * and dropped on the other, and others answer sooner.
 */
const COST_OF_A_CLIFF = 0.5;
const CLIFF = 2;

/** What is believed of the logarithm of the size per step of quality, as multiples of what is usual of the codec. */
const SLOPES: readonly [steepest: number, flattest: number] = [8, 0.3];

/**
 * Which group of pictures brings the file nearer to the cap when it alone is encoded again: a small part of the work of
 * the whole. Where there is room, bytes go where the most is lost for each byte; where there is none, they come from where
 * the least is.
 *
 * @param stock - All versions there are.
 * @param retouches - Those encoded again, in the order they were.
 * @returns null when every group was tried enough.
 */
export function aimRetouch(
  cap: Bytes,
  scale: QualityScale,
  stock: GroupStock,
  retouches: readonly WeighedRetouch[],
): RetouchAim | null {
  const base = chooseBase(stock);
  const missing = cap * USUAL_SHARE - stock.fixed - base.reduce((sum, group) => sum + group.bytes, 0);
  const lossPerByte = base.map(({ loss, bytes }) => loss / Math.max(1, bytes));
  const ranked = base.map((_, group) => group).toSorted((a, b) => lossPerByte[b]! - lossPerByte[a]!);
  if (missing < 0) ranked.reverse();
  const bias = restartBias(scale, stock, retouches);
  const aims = ranked.flatMap((group, rank) => {
    const present = base[group]!;
    const tries = retouches.filter((retouch) => retouch.group === group);
    const most = [present.bytes / MOST_CHANGE, present.bytes * MOST_CHANGE] as const;
    const wanted = Math.max(1, most[0], Math.min(most[1], present.bytes + missing));
    // Encodes of the whole tell how this group answers, until it was encoded by itself.
    const whole = stock.groups[group]!.filter(({ source }) => source.kind === 'pass').map((version) => ({
      quality: version.quality,
      bytes: version.bytes * bias,
    }));
    const quality = askFor(scale, wanted, present.quality, whole, tries);
    const part = Math.min(1, Math.abs(wanted - present.bytes) / Math.max(1, Math.abs(missing)));
    const standing = rank / base.length + COST_OF_A_PART * (1 - part);
    const cost = tries.reduce((sum, one) => sum + costOf(one, present), standing);
    return quality === null ? [] : [{ group, quality, cost }];
  });
  const best = aims.toSorted((a, b) => a.cost - b.cost)[0];
  return best ? { group: best.group, quality: best.quality } : aimMix(scale, stock, base, retouches, bias);
}

function costOf({ bytes }: WeighedRetouch, present: StockedGroup): number {
  if (bytes === null) return COST_OF_A_TRY;
  const change = Math.max(bytes / present.bytes, present.bytes / Math.max(1, bytes));
  return change > MOST_CHANGE * CLIFF ? COST_OF_A_CLIFF : COST_OF_A_TRY;
}

/** So many of the steps that tell, to either side of what a group has. */
const NEIGHBOURS = [-2, -1, 1, 2];

/**
 * Where what is missing is less than a step of quality of any group: the first of those further versions, as few as can
 * be, that would fill the cap mixed with what there is. Codecs whose qualities are whole numbers need it where groups are
 * few.
 */
function aimMix(
  scale: QualityScale,
  { groups, room }: GroupStock,
  base: readonly StockedGroup[],
  retouches: readonly WeighedRetouch[],
  bias: number,
): RetouchAim | null {
  const mixed = chooseGroups<GroupSource | RetouchAim>(
    groups.map((versions, group) => {
      const { source, quality: present, bytes } = base[group]!;
      const tries = retouches.filter((retouch) => retouch.group === group);
      const isSpent = tries.length >= MOST_TRIES || tries.some((one) => one.bytes === null);
      const alone = bytes * (source.kind === 'pass' ? bias : 1);
      const further = (isSpent ? [] : NEIGHBOURS).flatMap((steps) => {
        const quality = toStep(scale, present + steps * scale.tellingStep);
        const isTried = tries.some((one) => Math.abs(one.quality - quality) < scale.tellingStep - 1e-9);
        if (isTried || quality < scale.finestSensible || quality > scale.worst) return [];
        const reckoned = Math.round(alone * Math.exp(scale.slope * (quality - present)));
        // Each costs an encode: as few as fill it, whatever they lose.
        return [{ source: { group, quality }, bytes: reckoned, loss: 1 + tries.length }];
      });
      return [...versions.map((version) => ({ ...version, loss: 0 })), ...further];
    }),
    room,
  );
  return mixed?.sources.find((source) => 'quality' in source) ?? null;
}

/**
 * How much larger a group comes out alone than in the whole, as a rule: its encoder begins afresh. x264's came out at 0.8
 * to 1.6 (measured), and more alike within one programme.
 */
function restartBias({ slope }: QualityScale, stock: GroupStock, retouches: readonly WeighedRetouch[]): number {
  const logs = retouches.flatMap(({ group, quality, bytes }) => {
    const whole = stock.groups[group]?.find(({ source }) => source.kind === 'pass');
    if (!whole || bytes === null) return [];
    return [Math.log(bytes / whole.bytes) - slope * (quality - whole.quality)];
  });
  const sorted = logs.toSorted((a, b) => a - b);
  return Math.exp(sorted[Math.floor(sorted.length / 2)] ?? 0);
}

/** The version of each group in the best file below the cap, or, where none is, the smallest. */
function chooseBase({ groups, choice }: GroupStock): StockedGroup[] {
  return groups.map((versions, group) => {
    const source = choice?.sources[group];
    const chosen = versions.find((one) => one.source === source);
    return chosen ?? versions.toSorted((a, b) => a.bytes - b.bytes)[0]!;
  });
}

/** What a group came to at a quality. */
interface Answer {
  readonly quality: number;
  readonly bytes: number;
}

/** @returns null when the group was tried enough, or would be asked for what it was asked for already. */
function askFor(
  scale: QualityScale,
  wanted: number,
  present: number,
  whole: readonly Answer[],
  tries: readonly WeighedRetouch[],
): number | null {
  const answers = tries.flatMap(({ quality, bytes }) => (bytes === null ? [] : [{ quality, bytes }]));
  if (tries.length >= MOST_TRIES || answers.length < tries.length) return null;
  const asked = correct(scale, wanted, answers.length > 0 ? answers : whole);
  const { finestSensible, worst, slope } = scale;
  const furthest = (FURTHEST * Math.log(MOST_CHANGE)) / Math.abs(slope);
  const near = Math.max(present - furthest, Math.min(present + furthest, asked));
  const quality = toStep(scale, Math.max(finestSensible, Math.min(worst, near)));
  const known = [present, ...tries.map((one) => one.quality)];
  return known.some((one) => Math.abs(one - quality) < scale.tellingStep - 1e-9) ? null : quality;
}

/** By what was answered: between the two around it, or on from the nearest. */
function correct(scale: QualityScale, wanted: number, answers: readonly Answer[]): number {
  const sorted = answers.toSorted((a, b) => a.bytes - b.bytes);
  const [less, more] = [sorted.findLast((one) => one.bytes <= wanted), sorted.find((one) => one.bytes > wanted)];
  if (less && more && less.quality > more.quality) {
    const reckoned = Math.log(wanted / less.bytes) / Math.log(more.bytes / less.bytes);
    return less.quality + (more.quality - less.quality) * reckoned;
  }
  const nearest = (less ?? more)!;
  return nearest.quality + Math.log(wanted / nearest.bytes) / slopeOf(scale, sorted);
}

/** Of the answers furthest apart; the usual one of a single answer. */
function slopeOf({ slope }: QualityScale, sorted: readonly Answer[]) {
  const [least, most] = [sorted[0]!, sorted.at(-1)!];
  const found = Math.log(most.bytes / least.bytes) / (most.quality - least.quality);
  return Number.isFinite(found) && found < 0 ? Math.max(SLOPES[0] * slope, Math.min(SLOPES[1] * slope, found)) : slope;
}
