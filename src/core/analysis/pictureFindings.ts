import type { Portion } from '../programme/facts.ts';
import type { FrameClock } from '../timing/frameClock.ts';
import type { Edges } from '../geometry/preparation.ts';
import type { FieldTally, MeasuredPicture } from './measured.ts';
import { findRuns } from './stretches.ts';

/** Of a frame's pixels, to be called black. A title's few bright letters are far more than the rest. */
export const BLACK_SHARE = 98;

/** Shorter than this, or a single frame, nobody sees it as black. */
const LEAST_BLACK_SECONDS = 0.2;
const LEAST_BLACK_FRAMES = 2;

/** Mean luma steps from frame to frame; coding noise on a still picture stays below. */
const FROZEN_DIFFERENCE = 0.03;
const LEAST_FROZEN_SECONDS = 2;

/**
 * Coded anew at each keyframe, a still picture stirs for up to five frames, by up to 1.4 (measured on two codecs),
 * and then lies still for the rest of the group. On one side of it at least it must lie still for longer than that: where
 * it stands for a few frames only before each small step, it moves.
 */
const KEYFRAME_STIR = { frames: 5, difference: 1.5, stillBeside: 6 } as const;

/** On the detector's scale to 100; cuts between unlike pictures lie well above, fast pans below. */
const CHANGE_SCORE = 10;

/** Of the frames whose fields could be told, to call the whole interlaced or progressive. */
const DOMINANT_SHARE = 0.8;

/** Fields that are there always come in the same order; test patterns and fine detail give hits of both. */
const ONE_ORDER_SHARE = 0.9;

/** Fewer frames than this with a clear answer say nothing. */
const LEAST_TOLD = 8;

/** Bars must be at the same place in this share of the sampled frames; one dark scene is not enough. */
const STABLE_SHARE = 0.25;
const LEAST_BAR_SAMPLES = 4;

/** Pixels a bar's edge may wander by scaling, and from where it is a bar at all. */
const BAR_SLACK = 2;
const LEAST_BAR = 4;

/**
 * Stretches of black, at the ends and inside.
 *
 * @returns In frames, the out frame included.
 */
export function findBlack({ black }: Pick<MeasuredPicture, 'black'>, clock: FrameClock): Portion[] {
  const runs = findRuns(black.length, (frame) => (black[frame] ?? 0) >= BLACK_SHARE, LEAST_BLACK_FRAMES);
  return runs.filter((run) => lasts(run, clock, LEAST_BLACK_SECONDS));
}

/**
 * Stretches in which the picture stands still without being black. The first frame is the one that is then repeated.
 */
export function findFrozen(
  { black, difference }: Pick<MeasuredPicture, 'black' | 'difference'>,
  clock: FrameClock,
): Portion[] {
  const isBlack = (frame: number) => (black[frame] ?? 0) >= BLACK_SHARE;
  const isRepeated = (frame: number) =>
    frame > 0 && (difference[frame] ?? Infinity) <= FROZEN_DIFFERENCE && !isBlack(frame);
  const still = joinOverKeyframes(findRuns(difference.length, isRepeated, 1), difference);
  const runs = still.map((run) => ({ ...run, inFrame: run.inFrame - 1 }));
  return [...runs, ...framesOutside(runs, difference.length)]
    .filter((run) => lasts(run, clock, LEAST_FROZEN_SECONDS) && !isBlack(run.outFrame))
    .toSorted((a, b) => a.inFrame - b.inFrame);
}

/** Joins still runs that only the stir of a keyframe parts. */
function joinOverKeyframes(runs: readonly Portion[], difference: readonly number[]): Portion[] {
  const isLong = ({ inFrame, outFrame }: Portion) => outFrame - inFrame + 1 >= KEYFRAME_STIR.stillBeside;
  const joined: Portion[] = [];
  runs.forEach((run, index) => {
    const [whole, before] = [joined.at(-1), runs[index - 1]];
    const between = before ? difference.slice(before.outFrame + 1, run.inFrame) : [];
    const isStir = between.length <= KEYFRAME_STIR.frames && between.every((stir) => stir <= KEYFRAME_STIR.difference);
    if (whole && before && isStir && (isLong(before) || isLong(run))) {
      joined[joined.length - 1] = { inFrame: whole.inFrame, outFrame: run.outFrame };
    } else joined.push(run);
  });
  return joined;
}

/** Frames that no run has: one that a varying rate holds for long is a picture that stands still. */
function framesOutside(runs: readonly Portion[], frames: number): Portion[] {
  const ends = [-1, ...runs.map((run) => run.outFrame)];
  return ends.flatMap((end, index) => {
    const next = Math.max(end + 1, runs[index]?.inFrame ?? frames);
    return Array.from({ length: next - end - 1 }, (_, at) => ({ inFrame: end + 1 + at, outFrame: end + 1 + at }));
  });
}

function lasts({ inFrame, outFrame }: Portion, clock: FrameClock, seconds: number): boolean {
  // Frames that come to just so long must not be lost to rounding.
  return clock.secondsOf(outFrame + 1) - clock.secondsOf(inFrame) >= seconds - 1e-6;
}

/**
 * First frames of new scenes. Of neighbours that both stand out, the stronger is the cut.
 */
export function findSceneChanges(picture: Pick<MeasuredPicture, 'change'>): number[] {
  const { change } = picture;
  const at = (frame: number) => change[frame] ?? 0;
  return Array.from(change.keys()).filter(
    (frame) => frame > 0 && at(frame) >= CHANGE_SCORE && at(frame) >= at(frame - 1) && at(frame) > at(frame + 1),
  );
}

export type Scan = 'progressive' | 'top-first' | 'bottom-first' | 'mixed';

/**
 * The scan of the picture itself, whatever its tag says.
 *
 * @returns null when too little moved to tell.
 */
export function judgeScan(fields: FieldTally): Scan | null {
  const { progressive, topFirst, bottomFirst } = fields;
  const told = progressive + topFirst + bottomFirst;
  if (told < LEAST_TOLD) return null;
  if (progressive >= told * DOMINANT_SHARE) return 'progressive';
  const interlaced = topFirst + bottomFirst;
  const [most, scan] =
    topFirst >= bottomFirst ? ([topFirst, 'top-first'] as const) : ([bottomFirst, 'bottom-first'] as const);
  if (most < interlaced * ONE_ORDER_SHARE) return 'progressive';
  return interlaced >= told * DOMINANT_SHARE ? scan : 'mixed';
}

/**
 * Bars burnt into the picture: as far as no sampled frame ever shows anything, and only if many frames have a sharp edge
 * exactly there.
 *
 * @returns Even widths, so that a crop keeps chroma whole; null when too few frames were bright enough to tell.
 */
export function judgeBars(samples: MeasuredPicture['bars']): Edges | null {
  if (samples.length < LEAST_BAR_SAMPLES) return null;
  const side = (name: keyof Edges) => judgeSide(samples.map(({ dark, dim }) => [dark[name], dim[name]]));
  return { top: side('top'), bottom: side('bottom'), left: side('left'), right: side('right') };
}

function judgeSide(widths: readonly (readonly [dark: number, dim: number])[]): number {
  const least = widths.reduce((low, [dark]) => Math.min(low, dark), Infinity);
  const sharp = widths.filter(([dark, dim]) => dark <= least + BAR_SLACK && dim - dark <= BAR_SLACK).length;
  if (least < LEAST_BAR || sharp < widths.length * STABLE_SHARE) return 0;
  return Math.floor(least / 2) * 2;
}
