import type { TakeInView } from '../../contract/views.ts';
import * as statements from '../../store/statements/takeins.ts';
import type { Context } from '../context.ts';
import { PRIORITY } from '../jobs/job.ts';
import { enqueue, withdraw } from '../jobs/queue.ts';
import type { Scheduler } from '../jobs/scheduler.ts';
import { Refusal } from '../refusal.ts';

/** Refused files that are told one by one. */
const MOST_REFUSED_SHOWN = 100;

/** Past take-ins whose numbers stay in sight. */
const SHOWN = 5;

/** A take-in as stored. */
export interface TakeInRow extends Record<string, unknown> {
  readonly id: string;
  readonly paths: string[];
  readonly subfolders: boolean;
  readonly state: TakeInView['state'];
  readonly started_at: Date;
  readonly ended_at: Date | null;
  readonly found: number;
  readonly taken_in: number;
  readonly already_in: number;
  readonly refused: number;
  readonly refused_files: TakeInView['refused'];
}

/** Begins to take files in; the work goes on in the background. */
export async function beginTakeIn(
  context: Context,
  scheduler: Scheduler,
  paths: readonly string[],
  subfolders: boolean,
): Promise<TakeInView> {
  const id = context.newId();
  await context.database.transaction(async (query) => {
    await query(statements.INSERT_TAKEIN, [id, JSON.stringify(paths), subfolders, context.now()]);
    await enqueue(query, { kind: 'look', subject: id, priority: PRIORITY.look });
  });
  scheduler.wake();
  return viewTakeIn(context, id);
}

/** What is done stays done; the rest is left. */
export async function cancelTakeIn(context: Context, scheduler: Scheduler, id: string): Promise<TakeInView> {
  await findRow(context, id);
  await context.database.transaction(async (query) => {
    await query(statements.ENTER_TAKEIN, [id, 'stopped', context.now()]);
    await withdraw(query, 'look', id);
  });
  await scheduler.end('look', id);
  return viewTakeIn(context, id);
}

/** Puts a report away; it is not among the latest any more. */
export async function dismissTakeIn(context: Context, id: string): Promise<void> {
  await findRow(context, id);
  await context.database.query(statements.DISMISS_TAKEIN, [id, context.now()]);
}

export async function latestTakeIns(context: Context): Promise<TakeInView[]> {
  const rows = await context.database.query<{ id: string }>(statements.LATEST_TAKEINS, [SHOWN]);
  return Promise.all(rows.map(({ id }) => viewTakeIn(context, id)));
}

/** @throws Refusal `not-found`. */
export async function findRow(context: Context, id: string): Promise<TakeInRow> {
  const [row] = await context.database.query<TakeInRow>(statements.FIND_TAKEIN, [id, MOST_REFUSED_SHOWN]);
  if (!row) throw new Refusal('not-found', `There is no take-in ${id}.`);
  return row;
}

/** How a take-in stands: found = takenIn + alreadyIn + refusedCount once it is done. */
export async function viewTakeIn(context: Context, id: string): Promise<TakeInView> {
  const row = await findRow(context, id);
  return {
    id,
    state: row.state,
    paths: row.paths,
    found: row.found,
    takenIn: row.taken_in,
    alreadyIn: row.already_in,
    refusedCount: row.refused,
    refused: row.refused_files,
    startedAt: row.started_at.toISOString(),
    endedAt: row.ended_at?.toISOString() ?? null,
  };
}
