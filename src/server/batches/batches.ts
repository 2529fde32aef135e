import type { BatchRequest, BatchRowState, BatchRowView, BatchSummary, BatchView } from '../../contract/batch.ts';
import { readRecipe } from '../../contract/stored/recipe.ts';
import type { Problem, QualityView, RenditionOutline, RenditionState } from '../../contract/views.ts';
import { shareOfMaster } from '../../core/programme/shareOf.ts';
import * as statements from '../../store/statements/batches.ts';
import type { Context } from '../context.ts';
import { viewWorkLeft } from '../forecast/workLeft.ts';
import { PRIORITY } from '../jobs/job.ts';
import { enqueue } from '../jobs/queue.ts';
import { Refusal } from '../refusal.ts';
import { sentenceOf, workSecondsOf } from '../renditions/renditionRow.ts';
import { briefs, bundles } from '../shelf/shelf.ts';
import { planBatch } from './planBatch.ts';

/** Batches that lists tell of. */
const MOST_LISTED = 100;

/** Asks for many files at once; the caller wakes the scheduler, and they are ordered one after another. */
export async function askBatch(context: Context, request: BatchRequest): Promise<{ id: string }> {
  const plan = await planBatch(context, request);
  if (plan.together?.by === null) {
    const { unknown } = plan.together;
    const message =
      'decibels' in plan.together
        ? `${unknown} of these files were not tried yet, so it is not known how good they come out; have them measured first.`
        : `What ${unknown} of these files take is not measured yet, so the cap cannot be shared out; have them measured first.`;
    throw new Refusal('field-wrong', message, { field: 'together' });
  }
  const brief = request.briefId ? (await briefs.find(context, request.briefId)).brief : null;
  const id = context.newId();
  const rows = plan.rows.map((row, number) => ({
    number,
    programmeId: row.programmeId,
    programmeName: row.programmeName,
    recipe: row.recipe,
    portion: row.portion,
    brief,
    reason: row.isLeftOut ? LEFT_OUT : row.reason,
  }));
  const name = request.name || (await nameBatch(context, request, plan.rows.length));
  await context.database.transaction(async (query) => {
    await query(statements.INSERT_BATCH, [id, name, context.now(), plan.work.unknown > 0 ? null : plan.work.likely]);
    await query(statements.INSERT_BATCH_ROWS, [id, JSON.stringify(rows)]);
    await enqueue(query, { kind: 'batch', subject: id, priority: PRIORITY.waitedFor });
  });
  context.events.publish({ type: 'batch', id });
  return { id };
}

const LEFT_OUT = { code: 'left-out', message: 'Left out by hand.' };

/** After what was chosen. */
async function nameBatch(context: Context, request: BatchRequest, count: number): Promise<string> {
  const files = count === 1 ? '1 file' : `${count} files`;
  if (request.briefId) return `${(await briefs.find(context, request.briefId)).name}, ${files}`;
  if (request.bundleId) return `${(await bundles.find(context, request.bundleId)).name}, ${files}`;
  return files;
}

/**
 * Asks once more for what failed, was stopped or could not be; the caller wakes the scheduler.
 *
 * @param row - That one alone, counted from 0, also if it was left out by hand; null leaves those out.
 */
export async function askAgain(context: Context, id: string, row: number | null): Promise<BatchView> {
  await context.database.transaction(async (query) => {
    await query(statements.REOPEN_BATCH_ROWS, [id, LEFT_OUT.code, row]);
    await enqueue(query, { kind: 'batch', subject: id, priority: PRIORITY.waitedFor });
  });
  context.events.publish({ type: 'batch', id });
  return getBatch(context, id);
}

interface BatchHead extends Record<string, unknown> {
  readonly id: string;
  readonly name: string;
  readonly asked_at: Date;
  readonly promised_seconds: number | null;
}

interface RowOfBatch extends Record<string, unknown> {
  readonly programme_id: string;
  readonly programme_name: string;
  readonly recipe: unknown;
  readonly rendition_id: string | null;
  readonly reason: Problem | null;
  readonly state: RenditionState | null;
  readonly problem: Problem | null;
  readonly name: string | null;
  readonly path: string | null;
  readonly bytes: number | null;
  readonly expected_bytes: number | null;
  readonly quality: QualityView | null;
  readonly outline: RenditionOutline | null;
  readonly encode_seconds: number | null;
  readonly check_seconds: number | null;
  readonly fraction: number | null;
  readonly finished_at: Date | null;
  readonly has_file: boolean | null;
  readonly held: boolean | null;
  readonly source_bytes: number | null;
  readonly source_seconds: number | null;
}

/** @throws Refusal `not-found`. */
export async function getBatch(context: Context, id: string): Promise<BatchView> {
  const [head] = await context.database.query<BatchHead>(statements.FIND_BATCH, [id]);
  if (!head) throw new Refusal('not-found', `There is no batch ${id}.`);
  const stored = await context.database.query<RowOfBatch>(statements.LIST_BATCH_ROWS, [id]);
  const rows = stored.map(viewRow);
  const count = (...states: BatchRowState[]) => rows.filter(({ state }) => states.includes(state)).length;
  const [made, failed, stopped, leftOut] = [count('done'), count('failed'), count('stopped'), count('left-out')];
  const waiting = rows.length - made - failed - stopped - leftOut;
  const ends = stored.flatMap(({ finished_at }) => (finished_at ? [finished_at.getTime()] : []));
  return {
    id,
    name: head.name,
    state: waiting > 0 ? 'running' : 'done',
    askedAt: head.asked_at.toISOString(),
    promisedSeconds: head.promised_seconds,
    endedAt: waiting > 0 || ends.length === 0 ? null : new Date(Math.max(...ends)).toISOString(),
    // While its renditions are still being ordered, what is in the queue is not all of it.
    left: waiting > 0 && count('asked') === 0 ? await viewWorkLeft(context, id) : null,
    again: failed + stopped + leftOut - stored.filter(isLeftByHand).length,
    ...{ asked: rows.length, made, failed, stopped, leftOut, waiting, rows },
  };
}

function isLeftByHand({ rendition_id: renditionId, reason }: RowOfBatch): boolean {
  return renditionId === null && reason?.code === LEFT_OUT.code;
}

function viewRow(row: RowOfBatch): BatchRowView {
  const recipe = readRecipe(row.recipe);
  const { seconds = null } = row.outline ?? {};
  const reason = (row.rendition_id === null ? row.reason : row.problem)?.message;
  const source =
    row.source_bytes === null ? null : { bytes: row.source_bytes, durationSeconds: row.source_seconds ?? 0 };
  return {
    programmeId: row.programme_id,
    programmeName: row.programme_name,
    recipeName: recipe.name,
    sentence: sentenceOf(recipe, row.outline),
    renditionId: row.rendition_id,
    state: row.state ?? (row.rendition_id === null && row.reason ? 'left-out' : 'asked'),
    ...(reason ? { reason } : {}),
    name: row.name,
    path: row.path,
    sourceBytes: source && shareOfMaster(source, seconds ?? source.durationSeconds),
    expectedBytes: row.expected_bytes,
    bytes: row.bytes,
    fraction: row.fraction ?? 0,
    seconds,
    workSeconds: workSecondsOf(row),
    ssim: row.quality?.ssim.mean ?? null,
    hasFile: row.has_file ?? false,
    paused: row.held ?? false,
  };
}

interface CountedBatch extends BatchHead {
  readonly asked: number;
  readonly made: number;
  readonly failed: number;
  readonly stopped: number;
  readonly left_out: number;
}

/** The newest first. */
export async function listBatches(context: Context): Promise<BatchSummary[]> {
  const rows = await context.database.query<CountedBatch>(statements.LIST_BATCHES, [MOST_LISTED]);
  return rows.map(({ id, name, asked_at, asked, made, failed, stopped, left_out: leftOut }) => {
    const waiting = asked - made - failed - stopped - leftOut;
    return {
      id,
      name,
      state: waiting > 0 ? 'running' : 'done',
      askedAt: asked_at.toISOString(),
      ...{ asked, made, failed, stopped, leftOut, waiting },
    };
  });
}
