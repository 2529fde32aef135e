import { bytes, type Bytes } from '../units.ts';
import { chooseGroups, type GroupVersion } from './chooseGroups.ts';
import type { GroupSource, GroupStock } from './joinGroups.ts';
import type { WeighedRetouch } from './weighed.ts';

/** Which group of pictures to encode again by itself, and at how many bytes. */
export interface RetouchAim {
  readonly group: number;
  readonly asked: Bytes;
  /** How much larger or smaller the group becomes, as a factor of 1 or more. */
  readonly change: number;
}

/** What the whole file is brought to: the middle of what counts as filled. */
const AIM_SHARE = 0.995;

/** A group is made this much larger or smaller at most: two steps of the quantiser or so, which nobody sees. */
const MOST_CHANGE = 1.5;

/** A group that does not answer after so many tries is left to the others. */
const MOST_TRIES = 8;

/** After so many, what lies between two answers is halved: where the size jumps, reckoning only creeps. */
const RECKONED_TRIES = 2;

/**
 * What else counts against a group beside its change, as a logarithm: one that was not tried yet needs a first pass of its
 * own, and tells nothing of how it answers; one that was tried often is stubborn.
 */
const COST_OF_A_FIRST_TRY = 0.06;
const COST_OF_A_TRY = 0.02;

/** A group answers differently only when asked for at least this much more or less. */
const LEAST_STEP = 0.004;

/**
 * Which group of pictures fills the cap when it alone is encoded again: a small part of the work of another second pass,
 * and far more exact, since what it misses by is a small part of the file.
 *
 * @param stock - All versions there are.
 * @param retouches - Those encoded again, in the order they were.
 * @returns null when every group was tried enough.
 */
export function aimRetouch(cap: Bytes, stock: GroupStock, retouches: readonly WeighedRetouch[]): RetouchAim | null {
  const base = chooseBase(stock);
  const missing = cap * AIM_SHARE - stock.fixed - base.reduce((sum, group) => sum + group, 0);
  const aims = base.flatMap((present, group) => {
    const tries = retouches.filter((retouch) => retouch.group === group);
    const wanted = Math.max(1, present + missing);
    const asked = askFor(clampChange(wanted, present), tries);
    if (asked === null) return [];
    const change = Math.abs(Math.log(wanted / Math.max(1, present)));
    const cost = tries.length === 0 ? COST_OF_A_FIRST_TRY : COST_OF_A_TRY * (tries.length - 1);
    return [{ group, asked, change: Math.exp(change), cost: change + cost }];
  });
  const best = aims.toSorted((a, b) => a.cost - b.cost)[0];
  return best ? { group: best.group, asked: best.asked, change: best.change } : null;
}

/** Bytes of each group in the fullest file below the cap, or, where none is, in the smallest. */
function chooseBase({ groups, room }: GroupStock): number[] {
  const choice = chooseGroups(groups, room);
  return groups.map((versions, group) => {
    const source = choice?.sources[group];
    return source ? sizeOf(versions, source) : Math.min(...versions.map((one) => one.bytes));
  });
}

function sizeOf(versions: readonly GroupVersion<GroupSource>[], source: GroupSource): number {
  return versions.find((one) => one.source === source)?.bytes ?? 0;
}

function clampChange(wanted: number, present: number): number {
  return Math.max(present / MOST_CHANGE, Math.min(present * MOST_CHANGE, wanted));
}

/** @returns null when the group was tried enough, or would be asked for the same again. */
function askFor(wanted: number, tries: readonly WeighedRetouch[]): Bytes | null {
  const answers = tries.flatMap(({ asked, bytes }) => (bytes === null ? [] : [{ asked, answered: bytes }]));
  if (tries.length >= MOST_TRIES || answers.length < tries.length) return null;
  const asked = bytes(Math.max(1, correct(wanted, answers)));
  return tries.some((one) => Math.abs(asked / one.asked - 1) < LEAST_STEP) ? null : asked;
}

/** By what earlier tries at the group were answered: between the two around it, or on from the nearest. */
function correct(wanted: number, answers: readonly { readonly asked: number; readonly answered: number }[]): number {
  const sorted = answers.toSorted((a, b) => a.answered - b.answered);
  const below = sorted.findLast((one) => one.answered <= wanted);
  const above = sorted.find((one) => one.answered > wanted);
  if (below && above && above.asked > below.asked) {
    const reckoned = Math.log(wanted / below.answered) / Math.log(above.answered / below.answered);
    const share = answers.length > RECKONED_TRIES ? 0.5 : reckoned;
    return below.asked * (above.asked / below.asked) ** share;
  }
  const nearest = below ?? above;
  return nearest ? (nearest.asked * wanted) / nearest.answered : wanted;
}
