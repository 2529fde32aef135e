import { bytes, type Bytes } from '../units.ts';
import { FEW_GROUPS, FILLED_SHARE, joinPasses, nearestTo, type WeighedPass } from './joinPasses.ts';
import { AIM_SHARE } from './splitBudget.ts';

/** What may be aimed at, as shares of the cap. */
const SHARES: readonly number[] = Array.from({ length: 31 }, (_, index) => 0.95 + index * 0.0025);

/** How a corrected pass misses: half a per cent, and more the further it lies from the nearest pass (measured). */
const SCATTER = 0.005;
const SCATTER_PER_DISTANCE = 0.15;

/** Two passes nearer to each other in size, as a logarithm, differ by scatter and not by rate. */
const LEAST_SPAN = 0.01;

/** A normal distribution in steps of half its deviation, and the weight of each. */
const MISSES: readonly (readonly [deviations: number, weight: number])[] = Array.from({ length: 11 }, (_, index) => {
  const deviations = (index - 5) / 2;
  return [deviations, Math.exp(-(deviations ** 2) / 2)] as const;
});

/** What nothing below the cap costs against a cap that is filled: one more pass, or, after the last, the rendition. */
const COST_OF_OVER = 0.5;
const COST_OF_FAILURE = 10;

/** A cap filled by joining against one filled by a single pass, whose picture is as even as the encoder makes it. */
const WORTH_OF_JOINING = 0.9;

/**
 * The share of the cap at which the next pass most probably fills it, alone or joined with the passes that are there.
 *
 * A short programme has few groups of pictures, so a pass a little short often joins to something over or short again;
 * one that is further off may join better than one that only just misses.
 *
 * @param passes - At least one.
 * @param isLast - No other pass follows, so one below the cap matters more than one that fills it.
 * @returns null where joining says nothing: passes without groups, or with so many that any will do.
 */
export function aimForJoining(cap: Bytes, passes: readonly WeighedPass[], isLast: boolean): number | null {
  const nearest = nearestTo(cap, passes);
  if (!nearest || nearest.groups.length < 2 || nearest.groups.length > FEW_GROUPS) return null;
  const scored = SHARES.map((share) => ({ share, score: scoreAim(cap * share, cap, passes, nearest, isLast) }));
  scored.sort((a, b) => b.score - a.score || Math.abs(a.share - AIM_SHARE) - Math.abs(b.share - AIM_SHARE));
  return scored[0]?.share ?? null;
}

function scoreAim(
  aim: number,
  cap: Bytes,
  passes: readonly WeighedPass[],
  nearest: WeighedPass,
  isLast: boolean,
): number {
  // Sound and container may take nearly the whole cap, and the least shares then leave the picture nothing.
  const video = Math.max(1, aim - (nearest.fileBytes - nearest.videoBytes));
  const scatter = SCATTER + SCATTER_PER_DISTANCE * Math.abs(Math.log(video / nearest.videoBytes));
  const costOfOver = isLast ? COST_OF_FAILURE : COST_OF_OVER;
  return MISSES.reduce((score, [deviations, weight]) => {
    const imagined = imaginePass(passes, nearest, video * Math.exp(scatter * deviations));
    return score + weight * judge(cap, [...passes, imagined], imagined, costOfOver);
  }, 0);
}

/** 1 where the last pass fills the cap by itself, less where it takes joining, 0 where it falls short. */
function judge(cap: Bytes, passes: readonly WeighedPass[], last: WeighedPass, costOfOver: number): number {
  if (fills(cap, last.fileBytes)) return 1;
  const joined = joinPasses(cap, passes);
  if (joined && fills(cap, joined.fileBytes)) return WORTH_OF_JOINING;
  return joined || passes.some((pass) => pass.fileBytes <= cap) ? 0 : -costOfOver;
}

function fills(cap: Bytes, fileBytes: number): boolean {
  return fileBytes <= cap && fileBytes >= cap * FILLED_SHARE;
}

/** A pass whose picture comes to so many bytes. */
function imaginePass(passes: readonly WeighedPass[], nearest: WeighedPass, video: number): WeighedPass {
  const groups = imagineGroups(passes, nearest, video);
  const videoBytes = bytes(groups.reduce((sum, group) => sum + group, 0));
  return { ...nearest, groups, videoBytes, fileBytes: bytes(nearest.fileBytes - nearest.videoBytes + videoBytes) };
}

/**
 * One group may answer a change of rate for all the others, so each goes on as it went between the two passes beside
 * the size in question; from a single pass nothing is known but the whole.
 */
function imagineGroups(passes: readonly WeighedPass[], nearest: WeighedPass, video: number): number[] {
  const bySize = passes.toSorted((a, b) => a.videoBytes - b.videoBytes);
  const at = Math.max(1, Math.min(bySize.length - 1, bySize.filter((pass) => pass.videoBytes <= video).length));
  const [less, more] = [bySize[at - 1] ?? nearest, bySize[at] ?? nearest];
  const span = Math.log(more.videoBytes / less.videoBytes);
  const share = span < LEAST_SPAN ? 0 : Math.max(-2, Math.min(3, Math.log(video / less.videoBytes) / span));
  const drawn = (span < LEAST_SPAN ? nearest : less).groups.map((group, index) => {
    const grown = more.groups[index] ?? group;
    return Math.max(1, group) * (Math.max(1, grown) / Math.max(1, group)) ** share;
  });
  const scale = video / drawn.reduce((sum, group) => sum + group, 0);
  return drawn.map((group) => Math.round(group * scale));
}
