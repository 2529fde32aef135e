import type { BatchOrder } from '../../contract/batch.ts';
import { bendToBrief } from '../../core/brief/bendToBrief.ts';
import type { Brief } from '../../core/brief/brief.ts';
import { ratedVideo, renditionSize, type Recipe } from '../../core/recipe/recipe.ts';
import { withQuality } from '../../core/recipe/withRate.ts';
import { atValue, type ScaleCurve } from '../../core/scale/curve.ts';
import { spread, USUAL_SHARE_TRIED } from '../../core/scale/grid.ts';
import { RATED, type RatedCodec } from '../../core/video/codecs.ts';
import { toStep } from '../../core/video/qualityStep.ts';
import type { Context } from '../context.ts';
import type { Scheduler } from '../jobs/scheduler.ts';
import { findProgramme } from '../programmes/programmes.ts';
import { isRefusal } from '../refusal.ts';
import { findTriedCurve } from '../trials/triedSounding.ts';
import { askTrial, trialsOf } from '../trials/trials.ts';
import type { SharedBatch } from './shareBatch.ts';

/**
 * Gives every file of a batch the coarsest constant quality at which it is so good, as trials of it measured.
 *
 * @param decibels - Of SSIM, over the whole of each file.
 */
export async function levelBatch(
  context: Context,
  orders: readonly BatchOrder[],
  brief: Brief | null,
  decibels: number,
): Promise<SharedBatch> {
  const levelled: BatchOrder[] = [];
  let [unknown, short] = [0, 0];
  for (const order of orders) {
    const found = await lookAt(context, order, brief);
    if (found === null) {
      levelled.push(order);
    } else if (found.curve === null) {
      unknown += 1;
      levelled.push(order);
    } else {
      const place = atValue(found.curve, decibels);
      if (place === null) short += 1;
      const { quality } = place ?? finestOf(found.curve);
      levelled.push({ ...order, recipe: withQuality(found.recipe, finerStep(found.curve.codec, quality)) });
    }
  }
  return { orders: levelled, together: { decibels, unknown, short, by: unknown > 0 ? null : 'measured' } };
}

/**
 * Has what `levelBatch` goes by measured: one trial for each programme that lacks it, at the order's codec and frame size.
 *
 * @param orders - Bent to their brief already.
 */
export async function tryForLevel(
  context: Context,
  scheduler: Scheduler,
  orders: readonly BatchOrder[],
): Promise<void> {
  for (const order of orders) {
    const found = await lookAt(context, order, null);
    if (found?.curve !== null) continue;
    const { recipe } = found;
    const { programmeId, portion } = order;
    const video = ratedVideo(recipe);
    const size = renditionSize((await findProgramme(context, programmeId)).facts, recipe);
    // Another would stop one that is underway.
    const isUnderway = (await trialsOf(context, programmeId)).some(
      ({ state }) => state === 'waiting' || state === 'running',
    );
    if (!video || !size || isUnderway) continue;
    const grid = [{ codec: video.codec, ...size, qualities: spread(video.codec) }];
    const trial = { programmeId, recipe, portion, grid, share: USUAL_SHARE_TRIED, pinned: [], dropped: [] };
    await askTrial(context, scheduler, trial).catch((error: unknown) => {
      if (!isRefusal(error)) throw error;
    });
  }
}

interface Looked {
  readonly recipe: Recipe;
  readonly curve: ScaleCurve | null;
}

/** null for what is left out, has no quality to choose, or cannot be made; its row tells why. */
async function lookAt(context: Context, order: BatchOrder, brief: Brief | null): Promise<Looked | null> {
  if (order.isLeftOut) return null;
  try {
    const programme = await findProgramme(context, order.programmeId);
    const recipe = brief ? bendToBrief(order.recipe, brief, programme.facts).recipe : order.recipe;
    const video = ratedVideo(recipe);
    if (!video || !programme.facts.video) return null;
    const asked = withQuality(recipe, RATED[video.codec].quality.usual);
    return { recipe: asked, curve: await findTriedCurve(context, programme, asked, order.portion) };
  } catch (error) {
    if (!isRefusal(error)) throw error;
    return null;
  }
}

function finestOf({ points }: ScaleCurve) {
  return points.reduce((best, point) => (point.value > best.value ? point : best));
}

/** A quality between two steps takes the finer, so that the file is no worse. */
function finerStep(codec: RatedCodec, quality: number): number {
  const scale = RATED[codec].quality;
  return toStep(scale, Math.floor(quality / scale.step + 1e-9) * scale.step);
}
