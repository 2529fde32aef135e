import * as statements from '../../store/statements/batches.ts';
import type { Context } from '../context.ts';
import { withdraw } from '../jobs/queue.ts';

const STOPPED = { code: 'stopped', message: 'The batch was stopped before this was ordered.' };

/** What is not ordered yet is not ordered any more; work on it is ended by the caller. */
export async function stopOrdering(context: Context, id: string): Promise<void> {
  await context.database.transaction(async (query) => {
    await query(statements.REFUSE_REST_OF_BATCH, [id, JSON.stringify(STOPPED)]);
    await withdraw(query, 'batch', id);
  });
}

/** Renditions of a batch that wait or run, in the order they are stopped in: the last in the line first, so that none of them begins meanwhile. */
export async function findUnderway(context: Context, id: string): Promise<string[]> {
  const rows = await context.database.query<{ id: string }>(statements.UNDERWAY_OF_BATCH, [id]);
  return rows.map((row) => row.id);
}
