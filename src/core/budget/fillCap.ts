import type { Bytes } from '../units.ts';
import { aimRetouch, type RetouchAim } from './aimRetouch.ts';
import { dialOf, qualityAt, type Dial, type FillWay } from './dial.ts';
import { fullestJoin, stockGroups, type GroupSource } from './groupStock.ts';
import { AIM_SHARE } from './splitBudget.ts';
import { FILLED_SHARE, nearestTo, type WeighedPass, type WeighedRetouch } from './weighed.ts';

export type FillDecision =
  /** Take the pass with this index. `reason` says why no more was spent. */
  | { readonly kind: 'take'; readonly index: number; readonly reason: 'filled' | 'saturated' | 'passes-spent' }
  /** Join the groups of pictures, each from its source. */
  | { readonly kind: 'join'; readonly sources: readonly GroupSource[] }
  /** Run the second pass again, with the encoder's dial at this position. */
  | { readonly kind: 'again'; readonly asked: number }
  /** Encode one group of pictures again by itself at this constant quality. */
  | { readonly kind: 'retouch'; readonly group: number; readonly quality: number }
  /** The encoder cannot go lower at this frame size, or no pass got under. */
  | { readonly kind: 'over'; readonly reason: 'floor' | 'passes-spent' };

/** Second passes at most, as a rule. */
export const USUAL_SECOND_PASSES = 3;

/** A clip of a frame or two, a single group of pictures, has nothing to be joined, but is encoded in no time. */
const SECOND_PASSES_UNJOINED = 6;

/** Groups encoded again by themselves, at most. */
const MOST_RETOUCHES = 20;

/** Where one group need not change by more than this factor, some are encoded again before the whole is. */
const SMALL_CHANGE = 1.12;
const RETOUCHES_PER_PASS = 4;

/**
 * Where joining is of no help: what to aim at when nothing has come under after two passes, and for the last: ever
 * lower, since never over comes first.
 */
const LOWER_SHARE = 0.99;
const RESCUE_SHARE = 0.985;

/** Rates nearer to each other than this tell nothing about the response: single passes scatter by half a per cent. */
const TELLING_CHANGE = 0.03;

/**
 * Only a file this many times over is given up at once at the coarsest quantiser: at a mean of 50.4 one was twice, at 50.9
 * one five times as large as the smallest there was (measured on drawn noise).
 */
const FLOOR_SLACK = 5;

/** At the limit nearly every frame sits on it: means of 12.0 to 12.1 were measured for a limit of 12. */
const QUANTISER_SLACK = 0.5;

/** Mean quantisers this near to a limit may have most of their frames on it. */
const NEAR_LIMIT = 6;

/** Asked for at least 5 % more or less and answered by less than 0.5 %: the encoder has no more to give. */
const ASKED_CHANGE = 0.05;
const ANSWERED_CHANGE = 0.005;

/**
 * After each encode: is the cap met and filled, or what next on the same first-pass statistics?
 *
 * A first correction scales by what was missed; later ones interpolate in logarithms between the nearest passes on
 * both sides of the cap, or go on from the nearest. As soon as the groups of pictures that are there can be put
 * together so that the cap is filled, that is done instead: an encoder whose size jumps with the rate never lands there
 * by itself. Where they cannot, but little is missing, or the passes are spent, one group is encoded again by itself to
 * be just as large as what is missing asks.
 *
 * @param passes - In the order they were run; at least one.
 * @param retouches - Groups encoded again since, in order.
 */
export function decideFill(
  cap: Bytes,
  way: FillWay,
  passes: readonly WeighedPass[],
  retouches: readonly WeighedRetouch[],
): FillDecision {
  const last = passes.at(-1);
  if (!last) throw new RangeError('Expected at least one weighed pass.');
  const best = fullestBelow(cap, passes);
  if (best !== null && passes[best]!.fileBytes >= cap * FILLED_SHARE) {
    return { kind: 'take', index: best, reason: 'filled' };
  }
  if (best !== null && last.fileBytes <= cap && isSaturated(way, last, passes)) {
    return { kind: 'take', index: best, reason: 'saturated' };
  }
  if (last.fileBytes > cap && isAtFloor(way, cap, last, passes)) {
    return { kind: 'over', reason: 'floor' };
  }
  const stock = stockGroups(cap, way.scale, passes, retouches);
  const joined = fullestJoin(stock);
  if (joined && joined.fileBytes >= cap * FILLED_SHARE) return { kind: 'join', sources: joined.sources };
  // A constant quality that was begun far off takes more than a rate that was aimed.
  const isAiming = way.by === 'qualities' && best === null;
  const isEnough = passes.length >= (stock && !isAiming ? USUAL_SECOND_PASSES : SECOND_PASSES_UNJOINED);
  const retouch = stock && aimRetouch(cap, way, stock, retouches, nearestTo(cap, passes)!.meanQuantiser);
  if (retouch && isWorthwhile(retouch, isEnough, passes.length, retouches.length)) {
    return { kind: 'retouch', group: retouch.group, quality: retouch.quality };
  }
  const single = best === null ? 0 : passes[best]!.fileBytes;
  if (!isEnough) {
    const aim = stock || best !== null || passes.length === 1 ? AIM_SHARE : lowerAim(passes.length);
    const dial = dialOf(way);
    const tried = passes.map((pass) => pass.asked);
    const asked = dial.untried(correctPosition(dial, cap * aim, passes), tried);
    if (asked !== null) return { kind: 'again', asked };
  }
  if (joined && joined.fileBytes > single) return { kind: 'join', sources: joined.sources };
  if (best !== null) return { kind: 'take', index: best, reason: 'passes-spent' };
  return { kind: 'over', reason: 'passes-spent' };
}

/** @param isLastResort - No other pass may follow. */
function isWorthwhile({ change }: RetouchAim, isLastResort: boolean, passes: number, retouches: number): boolean {
  if (isLastResort) return retouches < MOST_RETOUCHES;
  return change <= SMALL_CHANGE && retouches < passes * RETOUCHES_PER_PASS;
}

function lowerAim(passes: number): number {
  return passes < USUAL_SECOND_PASSES ? LOWER_SHARE : RESCUE_SHARE;
}

function correctPosition({ range, furthest }: Dial, aim: number, passes: readonly WeighedPass[]): number {
  const nearest = nearestTo(aim, passes)!;
  // What is not picture stays as it is from pass to pass, so only the picture is corrected.
  const target = Math.max(1, aim - (nearest.fileBytes - nearest.videoBytes));
  const between = interpolatePosition(target, passes);
  if (between !== null) return between;
  const slope = responseSlope(passes);
  const wanted = nearest.asked * (target / nearest.videoBytes) ** (1 / slope);
  return Math.max(range[0], nearest.asked * furthest[0], Math.min(wanted, nearest.asked * furthest[1]));
}

/**
 * The position between the nearest pass below and the nearest above, by false position (the Illinois way, as published by
 * Dowell and Jarratt 1971; from memory); null unless both are there in that order.
 */
function interpolatePosition(target: number, passes: readonly WeighedPass[]): number | null {
  const [below, above] = nearestBracket(target, passes) ?? [];
  if (!below || !above) return null;
  const side = lastOnOneSide(target, passes);
  // Where passes keep falling on one side the response is bent, and the pass on the other side holds them back.
  const held = 0.5 ** (side.count - 1);
  const up = Math.log(target / below.videoBytes) * (side.isAbove ? held : 1);
  const down = Math.log(above.videoBytes / target) * (side.isAbove ? 1 : held);
  return below.asked * (above.asked / below.asked) ** (up / (up + down));
}

/**
 * Neighbours by rate of which the lower is below the target and the higher above, nearest to it by size: an encoder's
 * size may fall while its rate rises.
 */
function nearestBracket(
  target: number,
  passes: readonly WeighedPass[],
): readonly [below: WeighedPass, above: WeighedPass] | null {
  const sorted = passes.toSorted((a, b) => a.asked - b.asked);
  const brackets = sorted.flatMap((below, index) => {
    const above = sorted[index + 1];
    return above && below.videoBytes <= target && above.videoBytes > target ? [[below, above] as const] : [];
  });
  const span = ([below, above]: readonly [WeighedPass, WeighedPass]) => above.videoBytes / below.videoBytes;
  return brackets.toSorted((a, b) => span(a) - span(b))[0] ?? null;
}

/** On which side of the target the last pass fell, and how many in a row before it. */
function lastOnOneSide(target: number, passes: readonly WeighedPass[]): { isAbove: boolean; count: number } {
  const isAbove = passes.at(-1)!.videoBytes > target;
  const other = passes.findLastIndex((pass) => pass.videoBytes > target !== isAbove);
  return { isAbove, count: passes.length - 1 - other };
}

/** Relative change of the result per relative change of the request, from the passes furthest apart; 1 when unknown. */
function responseSlope(passes: readonly WeighedPass[]): number {
  const sorted = passes.toSorted((a, b) => a.asked - b.asked);
  const [least, most] = [sorted[0], sorted.at(-1)];
  if (!least || !most || most.asked < least.asked * (1 + TELLING_CHANGE)) return 1;
  const slope = Math.log(most.videoBytes / least.videoBytes) / Math.log(most.asked / least.asked);
  // Near the floor the encoder barely answers, until it does.
  return Number.isFinite(slope) ? Math.min(2, Math.max(0.1, slope)) : 1;
}

function isSaturated({ by, scale }: FillWay, last: WeighedPass, passes: readonly WeighedPass[]): boolean {
  if (by === 'qualities') return qualityAt(scale, last.asked) <= scale.finestSensible;
  const limit = scale.finestSensible + QUANTISER_SLACK;
  if (last.meanQuantiser !== null && last.meanQuantiser <= limit) return true;
  // Far from its limit the encoder still has bits to spend: an answer that went the wrong way is scatter.
  if (last.meanQuantiser !== null && last.meanQuantiser > limit + NEAR_LIMIT) return false;
  return hasNoAnswer(last, passes, (asked, before) => asked >= before * (1 + ASKED_CHANGE));
}

function isAtFloor({ by, scale }: FillWay, cap: Bytes, last: WeighedPass, passes: readonly WeighedPass[]): boolean {
  if (by === 'qualities') return qualityAt(scale, last.asked) >= scale.worst;
  const isCoarsest = last.meanQuantiser !== null && last.meanQuantiser >= scale.worst - 1;
  if (isCoarsest && last.fileBytes > cap * FLOOR_SLACK) return true;
  if (last.meanQuantiser !== null && last.meanQuantiser < scale.worst - NEAR_LIMIT) return false;
  return hasNoAnswer(last, passes, (asked, before) => asked <= before * (1 - ASKED_CHANGE));
}

/** Whether the last pass, asked for clearly more or less than any before it, came to the same size as the one before. */
function hasNoAnswer(
  last: WeighedPass,
  passes: readonly WeighedPass[],
  isClearly: (asked: number, before: number) => boolean,
): boolean {
  const earlier = passes.slice(0, -1);
  const before = earlier.at(-1);
  if (!before || !earlier.every((pass) => isClearly(last.asked, pass.asked))) return false;
  return Math.abs(last.videoBytes / before.videoBytes - 1) < ANSWERED_CHANGE;
}

/**
 * The pass that could be taken if no other followed.
 *
 * @returns Index of the largest file under the cap, the first of equals; null when none is.
 */
function fullestBelow(cap: Bytes, passes: readonly WeighedPass[]): number | null {
  let best: number | null = null;
  passes.forEach((pass, index) => {
    if (pass.fileBytes <= cap && (best === null || pass.fileBytes > passes[best]!.fileBytes)) best = index;
  });
  return best;
}
