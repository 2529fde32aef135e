import type { BatchOrder, BatchPlan, BatchPlanRow, BatchRequest } from '../../contract/batch.ts';
import { adviseUnseen } from '../../core/advice/adviseUnseen.ts';
import { bySeverity, type Advisory, type Subject } from '../../core/advice/advisory.ts';
import { bendToBrief, findUnsuited } from '../../core/brief/bendToBrief.ts';
import type { Brief } from '../../core/brief/brief.ts';
import { foreseeSeconds, speedsOf, type MachineSpeeds } from '../../core/forecast/encodeTime.ts';
import { AS_IT_IS } from '../../core/geometry/preparation.ts';
import { describeRecipe } from '../../core/recipe/describeRecipe.ts';
import type { Portion, ProgrammeFacts } from '../../core/programme/facts.ts';
import { fieldsOf, renditionSize, type Recipe } from '../../core/recipe/recipe.ts';
import { suitRecipe } from '../../core/recipe/suitRecipe.ts';
import type { Context } from '../context.ts';
import { viewSpeeds } from '../forecast/speeds.ts';
import { viewWorkWith } from '../forecast/workLeft.ts';
import type { ProgrammeRow } from '../programmes/programmes.ts';
import { isRefusal, Refusal } from '../refusal.ts';
import { planFor } from '../renditions/planOrder.ts';
import { freeRoom } from '../rooms.ts';
import { findBatchProgrammes, type BatchProgramme } from './batchProgrammes.ts';
import { remembering } from './remembering.ts';
import { levelBatch } from './levelBatch.ts';
import { shareBatch, type SharedBatch } from './shareBatch.ts';
import { briefs, bundles, recipes } from '../shelf/shelf.ts';

/** Rows of one batch at most. */
const MOST_ROWS = 2000;

/**
 * What a batch would be: every programme with every recipe, and why something cannot be.
 *
 * @param signal - Ends it where nobody waits for it any more.
 */
export async function planBatch(asking: Context, request: BatchRequest, signal?: AbortSignal): Promise<BatchPlan> {
  const context = remembering(asking);
  const asked = [...(request.programmeIds ?? []), ...(request.orders ?? []).map(({ programmeId }) => programmeId)];
  const [programmes, speeds] = await Promise.all([findBatchProgrammes(context, asked), viewSpeeds(context)]);
  const orders = await listOrders(context, request, programmes);
  const brief = request.briefId ? (await briefs.find(context, request.briefId)).brief : null;
  const rows: BatchPlanRow[] = [];
  const shared = await arrange(context, request, orders, brief);
  for (const order of shared.orders) {
    signal?.throwIfAborted();
    rows.push(await planRow(context, programmes.get(order.programmeId) ?? null, order, brief, speeds));
  }
  const ready = rows.filter((row) => row.state === 'ready' && !row.isLeftOut);
  const work = sumUp(ready.map(({ workSeconds }) => workSeconds));
  return {
    rows,
    files: ready.length,
    programmeSeconds: ready.reduce((total, { seconds }) => total + seconds, 0),
    expected: sumWeights(ready),
    work,
    left: await viewWorkWith(context, { seconds: work.likely, unknown: work.unknown }, speeds),
    freeBytes: await freeRoom(context.config.outputFolder),
    notLookedAt: [...programmes.values()].filter(isNotLookedAt).length,
    together: shared.together,
  };
}

/** The orders as they are together: under one cap, at one quality, or each by itself. */
async function arrange(
  context: Context,
  { together }: BatchRequest,
  orders: readonly BatchOrder[],
  brief: Brief | null,
): Promise<SharedBatch> {
  if (together === null) return { orders, together: null };
  return together.bytes === undefined
    ? levelBatch(context, orders, brief, together.decibels)
    : shareBatch(context, orders, brief, together.bytes);
}

/** What was not measured yet counts with what is usual, where anything is. */
function sumWeights(rows: readonly BatchPlanRow[]): BatchPlan['expected'] {
  const sum = sumUp(rows.map(({ expected }) => expected));
  return { ...sum, unknown: sum.unknown + rows.filter(({ isGuess }) => isGuess).length };
}

/** A sum, and of how many nothing is known. */
function sumUp(estimates: readonly (BatchPlanRow['expected'] | BatchPlanRow['workSeconds'])[]): BatchPlan['expected'] {
  const sum = { low: 0, likely: 0, high: 0, unknown: 0 };
  for (const one of estimates) {
    sum.low += one?.low ?? 0;
    sum.likely += one?.likely ?? 0;
    sum.high += one?.high ?? 0;
    if (one === null) sum.unknown += 1;
  }
  return sum;
}

/** What is asked for, one by one. */
async function listOrders(
  context: Context,
  request: BatchRequest,
  programmes: ReadonlyMap<string, BatchProgramme>,
): Promise<BatchOrder[]> {
  const given = request.orders ?? [];
  const wanted = request.recipes ? await findRecipes(context, request.recipes) : [];
  const bundled = request.bundleId ? (await bundles.find(context, request.bundleId)).recipeIds : [];
  const chosen = [...wanted, ...(await findRecipes(context, bundled))];
  const ids = request.programmeIds ?? [];
  // A brief by itself bends what each programme begins with.
  if (chosen.length === 0 && request.briefId) chosen.push((await recipes.find(context, 'stock-web-1080')).recipe);
  const count = given.length + ids.length * chosen.length;
  if (count === 0) {
    throw new Refusal('field-wrong', 'Nothing is asked for: choose programmes, and a recipe, a bundle or a brief.', {
      field: 'programmeIds',
    });
  }
  if (count > MOST_ROWS) {
    const message = `These are ${count.toLocaleString('en')} files; at most ${MOST_ROWS.toLocaleString('en')} go in one batch.`;
    throw new Refusal('field-wrong', message, { field: 'programmeIds' });
  }
  return [...given, ...ids.flatMap((id) => orderEach(id, programmes.get(id)?.subject ?? null, chosen))];
}

/** Every recipe as it suits a programme; one that was forgotten is told of in its row. */
function orderEach(programmeId: string, subject: Subject | null, chosen: readonly Recipe[]): BatchOrder[] {
  const suit = (one: Recipe) => {
    if (!subject) return one;
    const { facts, findings } = subject;
    return suitRecipe(one, facts, { ...AS_IT_IS, deinterlace: fieldsOf(facts, findings?.scan ?? null) });
  };
  return chosen.map((one) => ({ programmeId, recipe: suit(one), portion: null, isLeftOut: false }));
}

async function findRecipes(context: Context, wanted: readonly (string | Recipe)[]): Promise<Recipe[]> {
  return Promise.all(
    wanted.map(async (one) => (typeof one === 'string' ? (await recipes.find(context, one)).recipe : one)),
  );
}

async function planRow(
  context: Context,
  known: BatchProgramme | null,
  order: BatchOrder,
  brief: Brief | null,
  speeds: MachineSpeeds,
): Promise<BatchPlanRow> {
  const { programmeId, portion } = order;
  if (!known) {
    const reason = { code: 'not-found', message: 'This programme was forgotten.' };
    return { ...NOTHING, ...order, programmeName: programmeId, sentence: '', bent: [], state: 'cannot', reason };
  }
  const { row: programme, subject } = known;
  const { recipe, bent } = brief
    ? bendToBrief(order.recipe, brief, programme.facts)
    : { recipe: order.recipe, bent: [] };
  const common = {
    programmeId,
    programmeName: programme.name,
    recipe,
    portion,
    isLeftOut: order.isLeftOut,
    bent,
    sentence: describeRecipe(recipe, renditionSize(programme.facts, recipe)),
  };
  try {
    requireReady(programme);
    const unsuited = brief ? findUnsuited(brief, programme.facts, recipe, lengthOf(programme.facts, portion)) : [];
    if (unsuited.length > 0) throw new Refusal('unsuited', unsuited.join(' '));
    const plan = await planFor(context, programme, { recipe, portion });
    const { expected, isGuess = false } = plan.budget;
    return {
      ...common,
      state: 'ready',
      reason: null,
      seconds: plan.span.seconds,
      expected: expected && { low: expected.low, likely: expected.likely, high: expected.high },
      isGuess,
      workSeconds: foreseeSeconds(plan, speedsOf(programmeId, speeds)),
      advisories: adviseOnRow(plan.advisories, adviseUnseen(subject, { recipe, portion })),
    };
  } catch (error) {
    if (!isRefusal(error)) throw error;
    return { ...NOTHING, ...common, state: 'cannot', reason: { code: error.code, message: error.message } };
  }
}

/** What should be known of the plan, and of its programme what the plan does not say itself; the serious first. */
function adviseOnRow(ofPlan: readonly Advisory[], ofProgramme: readonly Advisory[]): Advisory[] {
  const told = ofPlan.filter(({ severity }) => severity !== 'note');
  const more = ofProgramme.filter(({ code }) => !told.some((one) => one.code === code));
  return [...told, ...more].toSorted(bySeverity);
}

/** Of a picture or sound that nobody looked at, what is wrong with it is not known. */
function isNotLookedAt({ row, subject }: BatchProgramme): boolean {
  return row.state === 'ready' && subject.findings === null;
}

/** Near enough to be judged by before there is a plan. */
function lengthOf({ frameCount, durationSeconds }: ProgrammeFacts, portion: Portion | null): number {
  if (!portion || frameCount === 0) return durationSeconds;
  return (durationSeconds * (portion.outFrame - portion.inFrame + 1)) / frameCount;
}

const NOTHING = { seconds: 0, expected: null, isGuess: false, workSeconds: null, advisories: [] } as const;

function requireReady({ state }: ProgrammeRow): void {
  if (state !== 'ready') throw new Refusal('file-unreadable', 'This programme cannot be read, or is being looked at.');
}
