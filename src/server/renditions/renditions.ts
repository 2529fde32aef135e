import path from 'node:path';
import type { ListRequest } from '../../contract/list.ts';
import type { RenditionRequest } from '../../contract/recipe.ts';
import type { RenditionPage, RenditionState, RenditionSummary, RenditionView } from '../../contract/views.ts';
import * as statements from '../../store/statements/renditions.ts';
import type { EncodePlan } from '../../core/plan/encodePlan.ts';
import type { Context } from '../context.ts';
import { PRIORITY } from '../jobs/job.ts';
import { enqueue, withdraw } from '../jobs/queue.ts';
import type { ProgrammeRow } from '../programmes/programmes.ts';
import { Refusal } from '../refusal.ts';
import { chooseDestination } from './destination.ts';
import { planOrder } from './planning.ts';
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

/** Queues a rendition; the caller wakes the scheduler. */
export async function orderRendition(context: Context, request: RenditionRequest): Promise<RenditionView> {
  const { programme, plan } = await planOrder(context, request);
  const id = context.newId();
  await naming.take(() => insert(context, id, request, programme, plan), NEVER);
  return publishRendition(context, id);
}

const NEVER = new AbortController().signal;

async function insert(
  context: Context,
  id: string,
  { recipe, portion, name, keepFailed }: RenditionRequest,
  programme: ProgrammeRow,
  plan: EncodePlan,
): Promise<void> {
  const portionName = portion?.name ?? null;
  // As it is taken: a copy begins and ends at keyframes.
  const { inFrame, frameCount } = plan.span;
  const span = portion && { inFrame, outFrame: inFrame + frameCount - 1 };
  const parts = { programmeName: programme.name, portionName, typedName: name };
  for (let inserted = false; !inserted;) {
    const file = await chooseDestination(context, parts, plan);
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
    ];
    // No row: another server on the same database took the name in this very moment, so the next free one is looked for.
    inserted = await context.database.transaction(async (query) => {
      const rows = await query(statements.INSERT_RENDITION, values);
      if (rows.length > 0) await enqueue(query, { kind: 'rendition', subject: id, priority: PRIORITY.rendition });
      return rows.length > 0;
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
    context.database.query<{ state: RenditionState; count: number }>(statements.COUNT_RENDITIONS, chosen),
  ]);
  return {
    rows: rows.map(viewSummary),
    next: rows.length === limit ? String(rows.at(-1)?.queue_order) : null,
    counts: Object.fromEntries(counted.map(({ state, count }) => [state, count])),
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
