import { soundingOf } from '../../contract/sounding.ts';
import type { Portion } from '../../core/programme/facts.ts';
import type { FrameSize } from '../../core/geometry/frameSize.ts';
import { renditionSize, type Recipe } from '../../core/recipe/recipe.ts';
import { bestUnder, type Choice } from '../../core/scale/best.ts';
import { explainBest } from '../../core/scale/explain.ts';
import { openSizeGrid, USUAL_SHARE_TRIED, type GridCurve } from '../../core/scale/grid.ts';
import { qualityOfRate } from '../../core/sounding/sounding.ts';
import type { Context } from '../context.ts';
import { findProgramme, type ProgrammeRow } from '../programmes/programmes.ts';
import { planWith } from '../renditions/planning.ts';
import { findSounding } from '../soundings/soundings.ts';
import { foreseenCurves } from './scale.ts';
import { planPoints } from './trials.ts';
import { tryPoints } from './tryPoints.ts';

interface Order {
  readonly recipe: Recipe;
  readonly portion: Portion | null;
}

/** An order whose frame size was left open, with one. */
export interface SettledSize {
  readonly recipe: Recipe;
  /** What was measured, in words; null where nothing was, and the largest stands for the time being. */
  readonly reason: string | null;
}

/** The order at the frame size that measured best at its size to fill; as it is where it leaves nothing open. */
export async function settleSize(context: Context, programme: ProgrammeRow, order: Order): Promise<SettledSize> {
  const { grid, cap } = await gridOf(context, programme, order);
  if (cap === null) return { recipe: order.recipe, reason: null };
  const curves = await foreseenCurves(context, programme.id, { ...order, grid });
  // One that is not measured at all would lose to any other.
  const choice = curves.length === grid.length ? bestUnder(curves, cap) : null;
  if (!choice) return { recipe: order.recipe, reason: null };
  return { recipe: atChosen(order.recipe, choice), reason: explainBest(choice, cap) };
}

/** The same as it is answered: the frame size alone. */
export async function viewSettledSize(
  context: Context,
  programmeId: string,
  order: Order,
): Promise<{ readonly size: FrameSize | null; readonly reason: string | null }> {
  const programme = await findProgramme(context, programmeId);
  const { recipe, reason } = await settleSize(context, programme, order);
  return { size: renditionSize(programme.facts, recipe), reason };
}

/** Measures what `settleSize` goes by, as far as it was not measured before. */
export async function measureSizes(
  context: Context,
  programmeId: string,
  order: Order,
  signal: AbortSignal,
): Promise<void> {
  const programme = await findProgramme(context, programmeId);
  const { grid } = await gridOf(context, programme, order);
  if (grid.length < 2) return;
  const { points } = await planPoints(context, programme, { ...order, grid });
  await tryPoints(context, programme, { points, share: USUAL_SHARE_TRIED, pinned: [], dropped: [] }, UNTOLD, signal);
}

const UNTOLD = {
  weighed: () => undefined,
  onChosen: () => Promise.resolve(),
  expect: () => undefined,
  done: () => undefined,
  onGap: () => undefined,
  write: () => Promise.resolve(),
};

async function gridOf(
  context: Context,
  programme: ProgrammeRow,
  { recipe, portion }: Order,
): Promise<{ readonly grid: readonly GridCurve[]; readonly cap: number | null }> {
  if (!recipe.picture.fit?.orSmaller || openSizeGrid(programme.facts, recipe, null).length === 0) {
    return { grid: [], cap: null };
  }
  const wanted = soundingOf(programme.facts, recipe, portion);
  const sounding = wanted && (await findSounding(context, programme.id, programme.facts, wanted));
  const { budget } = await planWith(context, programme, { recipe, portion }, sounding);
  const quality = sounding && budget.videoRate !== null ? qualityOfRate(sounding, budget.videoRate) : null;
  return { grid: openSizeGrid(programme.facts, recipe, quality), cap: budget.cap };
}

function atChosen(recipe: Recipe, { place: { width, height } }: Choice): Recipe {
  return { ...recipe, picture: { ...recipe.picture, fit: { width, height } } };
}
