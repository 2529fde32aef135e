import path from 'node:path';
import type { ListRequest } from '../../contract/list.ts';
import type { RenditionRequest } from '../../contract/recipe.ts';
import type { RenditionPage, RenditionState, RenditionSummary, RenditionView } from '../../contract/views.ts';
import * as batches from '../../store/statements/batches.ts';
import * as statements from '../../store/statements/renditions.ts';
import { workOfPlan } from '../../core/forecast/encodeWork.ts';
import type { Brief } from '../../core/brief/brief.ts';
import type { EncodePlan } from '../../core/plan/encodePlan.ts';
import type { Context } from '../context.ts';
import { PRIORITY } from '../jobs/job.ts';
import { enqueue, withdraw } from '../jobs/queue.ts';
import type { ProgrammeRow } from '../programmes/programmes.ts';
import { Refusal } from '../refusal.ts';
import { briefs } from '../shelf/shelf.ts';
import { chooseDestination } from './destination.ts';
import { planOrder } from './planOrder.ts';
import {
  outlineOf,
  readRendition,
  viewRendition,
  viewSummary,
  type RenditionRow,
  type StoredRendition,
  type StoredSummary,
} from './renditionRow.ts';
import { createTurns } from '../turns.ts';

/** Orders name their files one after another: all at once, each would find the same name free and try again. */
const naming = createTurns(1);

/** What a rendition is ordered for. */
export interface OrderedFor {
  /** Which row of which batch it is. */
  readonly batch: { readonly id: string; readonly name: string; readonly number: number } | null;
  /** What the receiver asks for; the file is checked against it. */
  readonly brief: Brief | null;
}

const BY_ITSELF: OrderedFor = { batch: null, brief: null };

/** Queues a rendition; the caller wakes the scheduler. */
export async function orderRendition(
  context: Context,
  request: RenditionRequest,
  wanted: OrderedFor = BY_ITSELF,
): Promise<RenditionView> {
  const { programme, plan } = await planOrder(context, request);
  const { briefId } = request;
  const brief = briefId ? (await briefs.find(context, briefId)).brief : wanted.brief;
  const id = context.newId();
  await naming.take(() => insert(context, id, request, { programme, plan, wanted: { ...wanted, brief } }));
  return publishRendition(context, id);
}

/** Makes a rendition once more, as it was ordered; one that waits or runs gets a double. The caller wakes the scheduler. */
export async function orderAgain(context: Context, id: string): Promise<RenditionView> {
  const {
    programme_id: programmeId,
    recipe,
    portion,
    portion_name,
    keep_failed,
    brief,
    state,
  } = await findRendition(context, id);
  const span = portion && { ...portion, ...(portion_name ? { name: portion_name } : {}) };
  const request = { programmeId, recipe, portion: span, name: null, keepFailed: keep_failed };
  const made = await orderRendition(context, request, { batch: null, brief });
  // One that is still to come is doubled; one that has ended is made instead of it.
  if (ACTIVE.split(',').includes(state)) return made;
  const replaced = await context.database.query<{ batch_id: string }>(batches.REPLACE_IN_BATCH, [id, made.id]);
  for (const { batch_id } of replaced) context.events.publish({ type: 'batch', id: batch_id });
  return made;
}

/**
 * What runs and waits, in the order it comes to its turn.
 *
 * @param most - Rows that are told; the counts are of all.
 */
export async function listLine(context: Context, most: number): Promise<RenditionPage> {
  const [rows, counted] = await Promise.all([
    context.database.query<StoredSummary>(statements.LIST_LINE, [most]),
    context.database.query<CountRow>(statements.COUNT_RENDITIONS, [null, ACTIVE]),
  ]);
  return { rows: rows.map(viewSummary), next: null, counts: countsOf(counted) };
}

const ACTIVE = 'planned,queued,running,checking';

interface CountRow extends Record<string, unknown> {
  readonly state: RenditionState;
  readonly count: number;
}

function countsOf(counted: readonly CountRow[]): RenditionPage['counts'] {
  return Object.fromEntries(counted.map(({ state, count }) => [state, count]));
}

interface Planned {
  readonly programme: ProgrammeRow;
  readonly plan: EncodePlan;
  readonly wanted: OrderedFor;
}

async function insert(
  context: Context,
  id: string,
  { recipe, portion, name, keepFailed }: RenditionRequest,
  { programme, plan, wanted }: Planned,
): Promise<void> {
  const { batch, brief } = wanted;
  const portionName = portion?.name ?? null;
  // As it is taken: a copy begins and ends at keyframes.
  const { inFrame, frameCount } = plan.span;
  const span = portion && { inFrame, outFrame: inFrame + frameCount - 1 };
  const { path: programmePath, name: programmeName } = programme;
  const parts = { programmePath, programmeName, portionName, recipe, typedName: name };
  for (let inserted = false; !inserted;) {
    const file = await chooseDestination(context, { ...parts, isPlain: brief?.plainName ?? false }, plan);
    const values = [
      id,
      programme.id,
      JSON.stringify(recipe),
      span && JSON.stringify(span),
      JSON.stringify(plan),
      path.basename(file),
      file,
      keepFailed,
      context.now(),
      plan.passes.length,
      plan.budget.expected?.likely ?? null,
      portionName,
      JSON.stringify(outlineOf(plan)),
      brief && JSON.stringify(brief),
      batch?.id ?? null,
      batch?.name ?? null,
      JSON.stringify(workOfPlan(plan)),
    ];
    // No row: another server on the same database took the name in this very moment, so the next free one is looked for.
    inserted = await context.database.transaction(async (query) => {
      const rows = await query(statements.INSERT_RENDITION, values);
      if (rows.length === 0) return false;
      const priority = batch ? PRIORITY.ofBatch : PRIORITY.rendition;
      await enqueue(query, { kind: 'rendition', subject: id, priority });
      if (batch) await query(batches.ORDER_BATCH_ROW, [batch.id, batch.number, id]);
      return true;
    });
  }
}

/** A page of renditions, in the order they were queued. */
export async function listRenditions(context: Context, request: ListRequest): Promise<RenditionPage> {
  const { programmeId, state: states, newest, after, limit } = request;
  const chosen = [programmeId, states?.join(',') ?? null];
  const text = newest ? statements.LIST_NEWEST_RENDITIONS : statements.LIST_RENDITIONS;
  const [rows, counted] = await Promise.all([
    context.database.query<StoredSummary>(text, [...chosen, after, limit]),
    context.database.query<CountRow>(statements.COUNT_RENDITIONS, chosen),
  ]);
  return {
    rows: rows.map(viewSummary),
    next: rows.length === limit ? String(rows.at(-1)?.queue_order) : null,
    counts: countsOf(counted),
  };
}

export async function getRendition(context: Context, id: string): Promise<RenditionView> {
  return viewRendition(await findRendition(context, id));
}

/** @throws Refusal `not-found`. */
export async function findRendition(context: Context, id: string): Promise<RenditionRow> {
  const [row] = await context.database.query<StoredRendition>(statements.FIND_RENDITION, [id]);
  if (!row) throw new Refusal('not-found', `There is no rendition ${id}.`);
  return readRendition(row);
}

/** Stops a rendition that is not finished; one that is stays as it is. */
export async function stopRendition(context: Context, id: string): Promise<RenditionView> {
  await findRendition(context, id);
  await context.database.transaction(async (query) => {
    await query(statements.STOP_RENDITION, [id, context.now()]);
    await withdraw(query, 'rendition', id);
  });
  return publishRendition(context, id);
}

/** Reads a rendition and tells everyone. */
export async function publishRendition(context: Context, id: string): Promise<RenditionView> {
  const rendition = await getRendition(context, id);
  await tellOfRendition(context, id);
  return rendition;
}

/** As lists have it; null when it is not there any more. */
export async function findSummary(context: Context, id: string): Promise<RenditionSummary | null> {
  const [row] = await context.database.query<StoredSummary>(statements.FIND_SUMMARY, [id]);
  return row ? viewSummary(row) : null;
}

/** Tells everyone how a rendition stands. */
export async function tellOfRendition(context: Context, id: string): Promise<void> {
  const rendition = await findSummary(context, id);
  if (rendition) context.events.publish({ type: 'rendition', rendition });
}
