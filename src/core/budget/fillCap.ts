import type { Bytes } from '../units.ts';
import type { QualityScale } from '../video/definition.ts';
import { aimPass, slopeAround, type ForeseenCurve } from './aimPass.ts';
import { aimRetouch } from './aimRetouch.ts';
import { baseOf, joinStock, stockGroups, type GroupSource, type StockedGroup } from './groupStock.ts';
import { FILLED_SHARE, nearestTo, USUAL_SHARE, type WeighedPass, type WeighedRetouch } from './weighed.ts';

/** Why no more was spent. */
type FillReason = 'filled' | 'saturated' | 'passes-spent';

export type FillDecision =
  /** Take the encode with this index. */
  | { readonly kind: 'take'; readonly index: number; readonly reason: FillReason }
  /** Join the groups of pictures, each from its source; the file should weigh so much. */
  | {
      readonly kind: 'join';
      readonly sources: readonly GroupSource[];
      readonly fileBytes: Bytes;
      readonly reason: FillReason;
    }
  /** Encode the whole again, at this constant quality. */
  | { readonly kind: 'again'; readonly quality: number }
  /** Encode one group of pictures again by itself at this constant quality. */
  | { readonly kind: 'retouch'; readonly group: number; readonly quality: number }
  /** The encoder cannot go lower at this frame size, or nothing got under. */
  | { readonly kind: 'over'; readonly reason: 'floor' | 'passes-spent' };

/** What was encoded so far for a cap. */
export interface Fill {
  readonly cap: Bytes;
  readonly scale: QualityScale;
  /** What the size was foreseen by; empty where nothing was sounded. */
  readonly foreseen: ForeseenCurve;
  /** In the order they were run; at least one. */
  readonly passes: readonly WeighedPass[];
  /** Groups encoded again since, in order. */
  readonly retouches: readonly WeighedRetouch[];
  /** What each group loses in the encode nearest to the cap, as measured; null while it was not. */
  readonly losses: readonly number[] | null;
  /** What a joined file came to beyond what its groups said, in bytes; 0 before one was joined. */
  readonly joinedMore: number;
}

/** Encodes of the whole, at most: a quality that was begun far off takes some. */
const MOST_PASSES = 6;

/**
 * A picture that has to become so much smaller or larger is within reach of its groups: half of them, each made a half
 * larger or a third smaller, do it. Beyond, the whole is encoded again.
 */
const REACH: readonly [smaller: number, larger: number] = [0.85, 1.25];

/**
 * Where the finest sensible quality should come out larger by no more than this logarithm, the whole is encoded at it: either nothing is
 * left to fill, and no group has to be tried for that, or the encodes lie around the cap.
 */
const NEAR_FINEST = 0.05;

/**
 * Where two encodes at least were all over the cap, and the next should be coarser than all but so much of the scale, as the logarithm of
 * the size: the whole is encoded at the coarsest, which says whether the cap can be met at all.
 */
const NEAR_WORST = 0.3;

/**
 * Groups encoded again by themselves after each encode of the whole, at most, for each group there is: so many encodes of the whole. What
 * is not filled then takes another, and groups of both. Of 1,800 simulated sizes of 12 to 40 groups 0.3 % took more than two and a half
 * encodes, and nine of ten at most two; where only half of the groups were tried, one of ten took two and a half. Real clips of twelve
 * groups took up to twenty tries.
 */
const MOST_RETOUCHED = 5 / 3;

/**
 * While all encodes lie on one side of the cap the next is aimed so far to its other side, as the logarithm of the size: groups of two
 * that lie around it fill it, and of two on one side they do not.
 */
const TO_THE_OTHER_SIDE = 0.05;

/**
 * After each encode: is the cap met and filled, or what next? The whole is encoded at the quality that should come to the
 * cap until the cap is within reach; then groups of pictures are encoded again, one after another, until some choice of
 * them fills it.
 */
export function decideFill(fill: Fill): FillDecision {
  const { cap, scale, foreseen, passes, retouches, losses, joinedMore } = fill;
  const last = passes.at(-1);
  if (!last) throw new RangeError('Expected at least one weighed encode.');
  const best = fullestBelow(cap, passes);
  if (best !== null && passes[best]!.fileBytes >= cap * FILLED_SHARE) {
    return { kind: 'take', index: best, reason: 'filled' };
  }
  // A picture that asks for nothing comes out alike at every quality: then it is not the largest that is the finest.
  if (best !== null && passes.some((pass) => isFinest(scale, pass) && pass.fileBytes <= cap)) {
    return { kind: 'take', index: best, reason: 'saturated' };
  }
  if (last.fileBytes > cap && last.quality >= scale.worst) return { kind: 'over', reason: 'floor' };
  const stock = stockGroups(cap, scale, { passes, retouches, losses, joinedMore });
  const joined = joinStock(stock);
  if (joined && joined.fileBytes >= cap * FILLED_SHARE) return { kind: 'join', ...joined, reason: 'filled' };
  const wanted = wantedPicture(cap, passes);
  const beyond = wanted * Math.exp(TO_THE_OTHER_SIDE * sideOf(cap, passes));
  const again = passes.length < MOST_PASSES ? aimPass(scale, beyond, passes, foreseen) : null;
  const isNearFinest = again !== null && (again - scale.finestSensible) * -scale.slope <= NEAR_FINEST;
  if (isNearFinest && retouches.length === 0 && !passes.some((pass) => isFinest(scale, pass))) {
    return { kind: 'again', quality: scale.finestSensible };
  }
  const isNearWorst = again !== null && (scale.worst - again) * -scale.slope <= NEAR_WORST;
  if (isNearWorst && passes.length > 1 && best === null) return { kind: 'again', quality: scale.worst };
  if (again !== null && (!stock || !isInReach(cap, passes))) return { kind: 'again', quality: again };
  const most = Math.floor((stock?.groups.length ?? 0) * MOST_RETOUCHED) * passes.length;
  const near = { ...scale, slope: slopeAround(scale, foreseen, nearestTo(cap, passes)!.quality) };
  const retouch = stock && retouches.length < most ? aimRetouch(cap, near, stock, retouches) : null;
  if (retouch) return { kind: 'retouch', ...retouch };
  const isSaturated = joined && stock?.groups.every((one, group) => isFinestOf(scale, one, joined.sources[group]));
  if (again !== null && !isSaturated) return { kind: 'again', quality: again };
  const single = best === null ? 0 : passes[best]!.fileBytes;
  const reason = isSaturated ? 'saturated' : 'passes-spent';
  if (joined && joined.fileBytes > single) return { kind: 'join', ...joined, reason };
  return best === null ? { kind: 'over', reason: 'passes-spent' } : { kind: 'take', index: best, reason };
}

/** Where the cap lies from all encodes: above (1), below (-1), or between them (0). */
function sideOf(cap: Bytes, passes: readonly WeighedPass[]): -1 | 0 | 1 {
  const under = passes.filter(({ fileBytes }) => fileBytes <= cap).length;
  if (under === 0) return -1;
  return under === passes.length ? 1 : 0;
}

/** Whether an encode is as fine as is sensible, but for less than a step that tells. */
function isFinest({ finestSensible, tellingStep }: QualityScale, { quality }: { readonly quality: number }): boolean {
  return quality < finestSensible + tellingStep - 1e-9;
}

/** The same of the chosen version of a group. */
function isFinestOf(scale: QualityScale, versions: readonly StockedGroup[], chosen: GroupSource | undefined): boolean {
  return versions.some((version) => version.source === chosen && isFinest(scale, version));
}

/** Whether groups are encoded again from here on, so that it is worth knowing what each of them loses. */
export function isInReach(cap: Bytes, passes: readonly WeighedPass[]): boolean {
  const base = baseOf(cap, passes);
  if (!base) return false;
  const change = wantedPicture(cap, [base]) / base.videoBytes;
  return change >= REACH[0] && change <= REACH[1];
}

/** Bytes of the picture that would fill the cap; what is not picture stays as it is. */
function wantedPicture(cap: Bytes, passes: readonly WeighedPass[]): number {
  const { fileBytes, videoBytes } = nearestTo(cap, passes)!;
  return Math.max(1, cap * USUAL_SHARE - (fileBytes - videoBytes));
}

/**
 * The encode that could be taken if no other followed.
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
