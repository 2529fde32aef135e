import type { Portion } from '../programme/facts.ts';
import { distanceOf, middleCost, type CostedGroup } from './costedGroup.ts';

/** A group of pictures that stands for others like it. */
export interface Excerpt {
  /** Index among the groups. */
  readonly group: number;
  /** Why it is among them. */
  readonly reason: 'hardest' | 'pinned' | 'typical';
}

/** What excerpts are chosen by. */
export interface ExcerptRequest {
  /** Groups that excerpts may take at most; those that are pinned count. */
  readonly most: number;
  /** In which the editor wants to see trials. */
  readonly pinned: readonly Portion[];
  /** In which none may lie. */
  readonly dropped: readonly Portion[];
  /** Black or nothing but titles; taken only where there is nothing else. */
  readonly empty: readonly Portion[];
  /** First frames of scenes. */
  readonly sceneStarts: readonly number[];
}

/** More candidates than this are thinned out evenly along their costs: hours of groups differ little from one to the next. */
const MOST_CANDIDATES = 400;

/** Of candidates that serve nearly as well, within this share, one that begins with a scene is taken. */
const NEARLY_AS_GOOD = 0.1;

/**
 * Excerpts that stand for the whole of a portion: what is pinned and the hardest group first, then each time the group by which
 * the most bytes come nearer to one like them. Those that come first stay when more are asked for, so that what was tried
 * of few excerpts counts among many.
 *
 * @param groups - All of the portion, in order; at least one.
 * @returns In the order they were chosen; at least one.
 */
export function chooseExcerpts(groups: readonly CostedGroup[], request: ExcerptRequest): Excerpt[] {
  const overlaps = (index: number, spans: readonly Portion[]) =>
    spans.some(({ inFrame, outFrame }) => outFrame >= groups[index]!.inFrame && inFrame < endOf(groups[index]!));
  const all = [...groups.keys()];
  // What was guessed is no measure for others.
  const weighed = all.filter((index) => !groups[index]!.guessed);
  const kept = weighed.filter((index) => !overlaps(index, request.dropped));
  const full = kept.filter((index) => !isMostly(groups[index]!, request.empty));
  const allowed = [full, kept, weighed].find((some) => some.length > 0) ?? [];
  const hardest = allowed.reduce((a, b) => (middleCost(groups[b]!) > middleCost(groups[a]!) ? b : a), allowed[0] ?? 0);
  const pinned = all.filter((index) => overlaps(index, request.pinned)).slice(0, Math.max(1, request.most));
  const reasons = new Map<number, Excerpt['reason']>(pinned.map((index) => [index, 'pinned']));
  if (reasons.size < request.most || reasons.size === 0) reasons.set(hardest, reasons.get(hardest) ?? 'hardest');

  const nearest = groups.map((group) =>
    Math.min(...[...reasons.keys()].map((index) => distanceOf(group, groups[index]!))),
  );
  const candidates = thinOut(groups, allowed);
  while (reasons.size < Math.min(request.most, allowed.length)) {
    const next = bestNext(groups, candidates, nearest, reasons, request.sceneStarts);
    if (next === null) break;
    reasons.set(next, 'typical');
    groups.forEach((group, index) => {
      nearest[index] = Math.min(nearest[index]!, distanceOf(group, groups[next]!));
    });
  }
  return [...reasons].map(([group, reason]) => ({ group, reason }));
}

/** More than half of it lies in some stretches. */
function isMostly({ inFrame, frameCount }: CostedGroup, spans: readonly Portion[]): boolean {
  const inside = spans.reduce(
    (sum, span) =>
      sum + Math.max(0, Math.min(span.outFrame + 1, inFrame + frameCount) - Math.max(span.inFrame, inFrame)),
    0,
  );
  return inside * 2 > frameCount;
}

function endOf({ inFrame, frameCount }: CostedGroup): number {
  return inFrame + frameCount;
}

function thinOut(groups: readonly CostedGroup[], allowed: readonly number[]): number[] {
  const byCost = allowed.toSorted((a, b) => middleCost(groups[a]!) - middleCost(groups[b]!));
  const step = Math.max(1, Math.ceil(byCost.length / MOST_CANDIDATES));
  return byCost.filter((_, index) => index % step === 0).toSorted((a, b) => a - b);
}

/** The group that brings the most bytes nearer; null when every group is like one that is chosen. */
function bestNext(
  groups: readonly CostedGroup[],
  candidates: readonly number[],
  nearest: readonly number[],
  chosen: ReadonlyMap<number, unknown>,
  sceneStarts: readonly number[],
): number | null {
  const gains = candidates
    .filter((index) => !chosen.has(index))
    .map((index) => ({
      index,
      gain: groups.reduce(
        (sum, group, other) =>
          sum + middleCost(group) * Math.max(0, nearest[other]! - distanceOf(group, groups[index]!)),
        0,
      ),
    }));
  const most = Math.max(0, ...gains.map(({ gain }) => gain));
  if (most <= 0) return null;
  const good = gains.filter(({ gain }) => gain >= most * (1 - NEARLY_AS_GOOD));
  const atScene = good.filter(({ index }) => startsScene(groups[index]!, sceneStarts));
  const best = (atScene.length > 0 ? atScene : good).reduce((a, b) => (b.gain > a.gain ? b : a));
  return best.index;
}

/** Within an eighth of a group after its first frame, or on it. */
function startsScene({ inFrame, frameCount }: CostedGroup, sceneStarts: readonly number[]): boolean {
  return sceneStarts.some((start) => start >= inFrame && start - inFrame <= frameCount / 8);
}
