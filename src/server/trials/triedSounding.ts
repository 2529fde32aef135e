import { isDeepStrictEqual } from 'node:util';
import { isSamePortion, type Portion } from '../../core/programme/facts.ts';
import { ratedVideo, renditionSize, type RatedVideo, type Recipe } from '../../core/recipe/recipe.ts';
import type { ScaleCurve } from '../../core/scale/curve.ts';
import { recipeAt, type GridCurve } from '../../core/scale/grid.ts';
import type { Sounding } from '../../core/sounding/sounding.ts';
import { barOf } from '../../core/forecast/outcomes.ts';
import { SURE } from '../../core/excerpts/foresee.ts';
import type { Context } from '../context.ts';
import type { ProgrammeRow } from '../programmes/programmes.ts';
import { curvesOf, foreseePoints, readOutcomes, type ForeseenPoint } from './scale.ts';
import { trialsOf, type Trial } from './trials.ts';

/** What trials at the very settings of an order foresee, from fine to coarse; empty where nothing of the kind was tried. */
async function findTriedPoints(
  context: Context,
  programme: ProgrammeRow,
  recipe: Recipe,
  portion: Portion | null,
): Promise<ForeseenPoint[]> {
  const video = ratedVideo(recipe);
  const size = video && renditionSize(programme.facts, recipe);
  if (!video || !size) return [];
  const isOwn = ({ codec, width, height, effort }: Omit<GridCurve, 'qualities'>) =>
    codec === video.codec && width === size.width && height === size.height && !effort;
  const trial = (await trialsOf(context, programme.id)).find(
    (one) => isSamePortion(one.portion, portion) && one.grid.some(isOwn) && isSameSettings(one, recipe, video),
  );
  if (!trial) return [];
  return (await foreseePoints(context, programme.id, trial))
    .filter(({ point }) => isOwn(point))
    .toSorted((a, b) => a.point.quality - b.point.quality);
}

/**
 * What trials of a programme at the very settings of an order say of its size: far nearer than a sounding, since the order's
 * own encoder was tried, on groups that stand for the whole.
 *
 * @returns null where nothing of the kind was tried at two qualities at least.
 */
export async function findTriedSounding(
  context: Context,
  programme: ProgrammeRow,
  recipe: Recipe,
  portion: Portion | null,
): Promise<Sounding | null> {
  const points = await findTriedPoints(context, programme, recipe, portion);
  const [first] = points;
  if (!first || points.length < 2) return null;
  const { codec, width, height } = first.point;
  const outcomes = (await readOutcomes(context, new Set([codec]))).get(codec) ?? [];
  const bar = Math.max(...points.map((one) => barOf(one.foreseen.error * SURE, outcomes)));
  return {
    codec,
    size: { width, height },
    points: points.map((one) => ({ quality: one.point.quality, bitsPerSecond: rateOf(one) })),
    error: { below: 1 - Math.exp(-bar), above: Math.exp(bar) - 1 },
  };
}

/** The same as a curve of SSIM over the bytes of the whole file; null where one cannot be drawn. */
export async function findTriedCurve(
  context: Context,
  programme: ProgrammeRow,
  recipe: Recipe,
  portion: Portion | null,
): Promise<ScaleCurve | null> {
  const [curve] = curvesOf(await findTriedPoints(context, programme, recipe, portion), 'ssim', new Map());
  return curve && curve.points.length > 1 ? curve : null;
}

function rateOf({ point, foreseen }: ForeseenPoint): number {
  return Math.max(1, Math.round((foreseen.bytes * 8) / point.plan.span.seconds));
}

/** All that shapes the picture's bytes but its rate. */
function isSameSettings(trial: Trial, recipe: Recipe, video: RatedVideo): boolean {
  const at = { codec: video.codec, width: 16, height: 16 };
  const [tried, wanted] = [trial.recipe, recipe].map((one) => {
    const { picture, time, video: settings } = recipeAt(one, at, 0);
    return { picture, time, settings };
  });
  return isDeepStrictEqual(tried, wanted);
}
