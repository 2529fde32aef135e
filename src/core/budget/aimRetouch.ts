import type { Bytes } from '../units.ts';
import type { QualityScale } from '../video/definition.ts';
import type { FillWay } from './dial.ts';
import { chooseGroups, type GroupVersion } from './chooseGroups.ts';
import type { GroupSource, GroupStock } from './groupStock.ts';
import { USUAL_SHARE, type WeighedRetouch } from './weighed.ts';

/** Which group of pictures to encode again by itself, and at which constant quality. */
export interface RetouchAim {
  readonly group: number;
  readonly quality: number;
  /** How much larger or smaller the group becomes, as a factor of 1 or more. */
  readonly change: number;
}

/** A group is made this much smaller at most, about three steps of quality; being better than others harms none. */
const MOST_SHRINK = 1.5;

/** A group that does not answer after so many tries is left to the others. */
const MOST_TRIES = 10;

/** After so many, what lies between two answers is halved: where the size jumps, reckoning only creeps. */
const RECKONED_TRIES = 4;

/**
 * What else counts against a group beside its change, as a logarithm: one that was not tried yet tells nothing of how it
 * answers; one that was tried often is stubborn.
 */
const COST_OF_A_FIRST_TRY = 0.06;
const COST_OF_A_TRY = 0.02;

/** What is believed of the logarithm of the size per step of quality. */
const SLOPES: readonly [steepest: number, flattest: number] = [-1.2, -0.04];

/** Mean quantisers come out about this much above the quality that was asked for (measured: 1 to 3). */
const QUANTISERS_ABOVE_QUALITY = 2;

/**
 * Beyond what was answered quality moves this far in one go, as the logarithm of the size: where the size jumps, more
 * would make a huge group.
 */
const MOST_SIZE_STEP = 0.56;

/**
 * Which group of pictures fills the cap when it alone is encoded again: a small part of the work of another second pass,
 * and far more exact, since what it misses by is a small part of the file. At a constant quality the size of a group
 * follows what is asked, also where second passes jump.
 *
 * @param stock - All versions there are.
 * @param retouches - Those encoded again, in the order they were.
 * @param meanQuantiser - Of the pass nearest to the cap; null when the encoder did not say.
 * @returns null when every group was tried enough.
 */
export function aimRetouch(
  cap: Bytes,
  way: FillWay,
  stock: GroupStock,
  retouches: readonly WeighedRetouch[],
  meanQuantiser: number | null,
): RetouchAim | null {
  const { scale } = way;
  const base = chooseBase(stock);
  const missing = cap * USUAL_SHARE - stock.fixed - base.reduce((sum, group) => sum + group, 0);
  const start = startingQuality(way, base, retouches, meanQuantiser);
  const aims = base.flatMap((present, group) => {
    const tries = retouches.filter((retouch) => retouch.group === group);
    const change = Math.abs(Math.log(Math.max(1, present + missing) / present));
    const wanted = Math.max(present / MOST_SHRINK, present + missing);
    const quality = askFor(scale, wanted, tries, start + Math.log(wanted / present) / scale.slope);
    if (quality === null) return [];
    const cost = tries.length === 0 ? COST_OF_A_FIRST_TRY : COST_OF_A_TRY * (tries.length - 1);
    return [{ group, quality, change: Math.exp(change), cost: change + cost }];
  });
  const best = aims.toSorted((a, b) => a.cost - b.cost)[0];
  return best ? { group: best.group, quality: best.quality, change: best.change } : null;
}

/** Bytes of each group in the fullest file below the cap, or, where none is, in the smallest. */
function chooseBase({ groups, room }: GroupStock): number[] {
  const choice = chooseGroups(groups, room);
  return groups.map((versions, group) => {
    const source = choice?.sources[group];
    return Math.max(1, source ? sizeOf(versions, source) : Math.min(...versions.map((one) => one.bytes)));
  });
}

function sizeOf(versions: readonly GroupVersion<GroupSource>[], source: GroupSource): number {
  return versions.find((one) => one.source === source)?.bytes ?? 0;
}

/** The quality at which groups come out as they are: as the last retouch told, before the first as the pass was. */
function startingQuality(
  { by, scale }: FillWay,
  base: readonly number[],
  retouches: readonly WeighedRetouch[],
  meanQuantiser: number | null,
): number {
  const told = retouches.findLast(({ bytes }) => bytes !== null);
  if (told?.bytes) return told.quality + Math.log((base[told.group] ?? 1) / told.bytes) / scale.slope;
  const usual = (scale.finestSensible + scale.worst) / 2;
  if (meanQuantiser === null) return usual;
  return by === 'rates' ? meanQuantiser - QUANTISERS_ABOVE_QUALITY : meanQuantiser;
}

/** @returns null when the group was tried enough, or would be asked for the same again. */
function askFor(
  scale: QualityScale,
  wanted: number,
  tries: readonly WeighedRetouch[],
  firstQuality: number,
): number | null {
  const answers = tries.flatMap(({ quality, bytes }) => (bytes === null ? [] : [{ quality, bytes }]));
  if (tries.length >= MOST_TRIES || answers.length < tries.length) return null;
  const asked = answers.length === 0 ? firstQuality : correct(scale, wanted, answers);
  const { finestSensible, worst } = scale;
  // Divided by a whole number, so that hundredths come out as people write them.
  const perStep = Math.round(1 / scale.step);
  const quality = Math.round(Math.max(finestSensible, Math.min(worst, asked)) * perStep) / perStep;
  return tries.some((one) => Math.abs(one.quality - quality) < scale.tellingStep) ? null : quality;
}

/** By what earlier tries at the group were answered: between the two around it, or on from the nearest. */
function correct(
  scale: QualityScale,
  wanted: number,
  answers: readonly { readonly quality: number; readonly bytes: number }[],
): number {
  const sorted = answers.toSorted((a, b) => a.bytes - b.bytes);
  const [less, more] = [sorted.findLast((one) => one.bytes <= wanted), sorted.find((one) => one.bytes > wanted)];
  if (less && more) {
    const reckoned = Math.log(wanted / less.bytes) / Math.log(more.bytes / less.bytes);
    return less.quality + (more.quality - less.quality) * (answers.length > RECKONED_TRIES ? 0.5 : reckoned);
  }
  const nearest = (less ?? more)!;
  const most = MOST_SIZE_STEP / -scale.slope;
  const step = Math.log(wanted / nearest.bytes) / slopeOf(scale, sorted);
  return nearest.quality + Math.max(-most, Math.min(most, step));
}

/** Of the answers furthest apart; the usual one of a single answer. */
function slopeOf(scale: QualityScale, sorted: readonly { readonly quality: number; readonly bytes: number }[]): number {
  const [least, most] = [sorted[0]!, sorted.at(-1)!];
  const slope = Math.log(most.bytes / least.bytes) / (most.quality - least.quality);
  return Number.isFinite(slope) ? Math.max(SLOPES[0], Math.min(SLOPES[1], slope)) : scale.slope;
}
