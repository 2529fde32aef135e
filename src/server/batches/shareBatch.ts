import type { BatchOrder, BatchPlan } from '../../contract/batch.ts';
import { bendToBrief } from '../../core/brief/bendToBrief.ts';
import type { Brief } from '../../core/brief/brief.ts';
import { shareCap, type Sharer } from '../../core/budget/shareCap.ts';
import { ratedVideo } from '../../core/recipe/recipe.ts';
import { withQuality, withRate } from '../../core/recipe/withRate.ts';
import { atValue, type ScaleCurve } from '../../core/scale/curve.ts';
import { soundedRate } from '../../core/sounding/sounding.ts';
import { RATED } from '../../core/video/codecs.ts';
import type { Context } from '../context.ts';
import { findProgramme, type ProgrammeRow } from '../programmes/programmes.ts';
import { isRefusal, Refusal } from '../refusal.ts';
import { planWith } from '../renditions/planning.ts';
import { findForesight, planFor } from '../renditions/planOrder.ts';
import { findTriedCurve } from '../trials/triedSounding.ts';

export interface SharedBatch {
  readonly orders: readonly BatchOrder[];
  readonly together: BatchPlan['together'];
}

/** One order with what is known of its size at each quality. */
type Looked =
  /** Left out, or it cannot be made; its row tells why. */
  | { readonly kind: 'out'; readonly order: BatchOrder }
  | { readonly kind: 'unknown'; readonly order: BatchOrder }
  | {
      readonly kind: 'known';
      readonly order: BatchOrder;
      readonly sharer: Sharer;
      /** SSIM in decibels against bytes, as trials measured it; null where they did not. */
      readonly curve: ScaleCurve | null;
    };

/** Levels by constant qualities: the logarithm of how many times the bytes of the usual one are taken. */
const LEVELS = [-3, 1.5] as const;

/**
 * Shares one cap out over the files of a batch, so that the worst of them is as good as it can be: by decibels where trials
 * measured all of them, otherwise by the constant quality that each would come out at.
 *
 * @throws Refusal `cap-below-floor` where they cannot be so small.
 */
export async function shareBatch(
  context: Context,
  orders: readonly BatchOrder[],
  brief: Brief | null,
  cap: number,
): Promise<SharedBatch> {
  const looked: Looked[] = [];
  for (const order of orders) looked.push(await lookAt(context, order, brief));
  const unknown = looked.filter(({ kind }) => kind === 'unknown').length;
  if (unknown > 0) return { orders, together: { bytes: cap, unknown, by: null } };
  const known = looked.filter((one) => one.kind === 'known');
  const choosing = known.filter(({ sharer }) => sharer.bytesAt !== null);
  const curves = choosing.flatMap(({ curve }) => (curve ? [curve] : []));
  const isMeasured = curves.length > 0 && curves.length === choosing.length;
  const sharers = known.map(({ sharer, curve }) => (isMeasured && curve ? byCurve(curve) : sharer));
  const shared = shareCap(cap, sharers, isMeasured ? rangeOf(curves) : LEVELS);
  if (!shared.ok) {
    const message = `These ${known.length} files take at least ${(shared.least / 1e6).toFixed(1)} MB together; leave some out, take a smaller frame size, or allow more.`;
    throw new Refusal('cap-below-floor', message, { field: 'together.bytes' });
  }
  const shareOf = new Map(known.map(({ order }, index) => [order, shared.bytes[index]!]));
  return {
    orders: looked.map((one) => (one.kind === 'known' ? filling(one.order, shareOf.get(one.order)!) : one.order)),
    together: { bytes: cap, unknown: 0, by: isMeasured ? 'measured' : 'quality' },
  };
}

function filling(order: BatchOrder, bytes: number): BatchOrder {
  return { ...order, recipe: withRate(order.recipe, { mode: 'size', bytes: readable(bytes) }) };
}

/** Whole kilobytes read better, and leave a few bytes of the cap. */
function readable(bytes: number): number {
  return bytes < 100_000 ? bytes : Math.floor(bytes / 1000) * 1000;
}

function byCurve(curve: ScaleCurve): Sharer {
  const finest = curve.points.at(-1)!;
  return { besideBytes: 0, bytesAt: (level) => (atValue(curve, level) ?? finest).bytes };
}

/** From where the first gets better than its coarsest to where none gets any better. */
function rangeOf(curves: readonly ScaleCurve[]): readonly [number, number] {
  const values = curves.flatMap(({ points }) => points.map(({ value }) => value));
  return [Math.min(...values), Math.max(...values)];
}

async function lookAt(context: Context, asked: BatchOrder, brief: Brief | null): Promise<Looked> {
  if (asked.isLeftOut) return { kind: 'out', order: asked };
  try {
    const programme = await findProgramme(context, asked.programmeId);
    const recipe = brief ? bendToBrief(asked.recipe, brief, programme.facts).recipe : asked.recipe;
    return await lookAtPicture(context, programme, { ...asked, recipe });
  } catch (error) {
    if (!isRefusal(error)) throw error;
    return { kind: 'out', order: asked };
  }
}

async function lookAtPicture(context: Context, programme: ProgrammeRow, order: BatchOrder): Promise<Looked> {
  const { recipe, portion } = order;
  const video = ratedVideo(recipe);
  if (!video) {
    const { expected } = (await planFor(context, programme, { recipe, portion })).budget;
    if (!expected) return { kind: 'unknown', order };
    return { kind: 'known', order, sharer: { besideBytes: expected.high, bytesAt: null }, curve: null };
  }
  const { usual, finestSensible, worst, slope } = RATED[video.codec].quality;
  const usually = { recipe: withQuality(recipe, usual), portion };
  const { tried, quick } = await findForesight(context, programme, usually);
  // All qualities come into question.
  const sounding = tried ?? (quick?.between ? null : quick);
  const { budget, span } = await planWith(context, programme, usually, sounding);
  if (!sounding) return { kind: 'unknown', order };
  const bytesAt = (level: number) => {
    const quality = Math.min(worst, Math.max(finestSensible, usual + level / slope));
    return (soundedRate(sounding, quality) * span.seconds) / 8;
  };
  const sharer = { besideBytes: budget.split.audio + budget.split.container, bytesAt };
  return { kind: 'known', order, sharer, curve: await findTriedCurve(context, programme, usually.recipe, portion) };
}
