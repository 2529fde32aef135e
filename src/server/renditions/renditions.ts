import path from 'node:path';
import type { RenditionRequest } from '../../contract/recipe.ts';
import type { RenditionView } from '../../contract/views.ts';
import * as statements from '../../store/statements/renditions.ts';
import type { EncodePlan } from '../../core/plan/encodePlan.ts';
import type { Context } from '../context.ts';
import type { ProgrammeRow } from '../programmes/programmes.ts';
import { Refusal } from '../refusal.ts';
import { chooseDestination } from './destination.ts';
import { planOrder } from './planning.ts';
import { readRendition, viewRendition, type RenditionRow, type StoredRendition } from './renditionRow.ts';
import { createTurns } from '../turns.ts';

/** Orders name their files one after another: all at once, each would find the same name free and try again. */
const naming = createTurns(1);

/** Queues a rendition; the caller wakes the runner. */
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
  const span = portion && { inFrame: portion.inFrame, outFrame: portion.outFrame };
  const parts = { programmeName: programme.name, portionName, typedName: name };
  for (let inserted = false; !inserted;) {
    const file = await chooseDestination(context, parts, plan);
    const rows = await context.database.query(statements.INSERT_RENDITION, [
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
    ]);
    // No row: another server on the same database took the name in this very moment, so the next free one is looked for.
    inserted = rows.length > 0;
  }
}

export async function listRenditions(context: Context, programmeId: string | null): Promise<RenditionView[]> {
  const rows = await context.database.query<StoredRendition>(statements.LIST_RENDITIONS, [programmeId]);
  return rows.map((row) => viewRendition(readRendition(row)));
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
  await context.database.query(statements.STOP_RENDITION, [id, context.now()]);
  return publishRendition(context, id);
}

/** Reads a rendition and tells everyone. */
export async function publishRendition(context: Context, id: string): Promise<RenditionView> {
  const rendition = await getRendition(context, id);
  context.events.publish({ type: 'rendition', rendition });
  return rendition;
}
