import { object } from 'yup';
import { briefSchema } from '../../contract/brief.ts';
import { readRecipe } from '../../contract/stored/recipe.ts';
import { parseWith } from '../../contract/strictObject.ts';
import type { Brief } from '../../core/brief/brief.ts';
import type { Portion } from '../../core/programme/facts.ts';
import * as statements from '../../store/statements/batches.ts';
import type { Context } from '../context.ts';
import type { JobHandler, Settlement } from '../jobs/job.ts';
import { isRefusal } from '../refusal.ts';
import { orderRendition } from '../renditions/renditions.ts';

interface AskedRow extends Record<string, unknown> {
  readonly number: number;
  readonly programme_id: string;
  readonly recipe: unknown;
  readonly portion: Portion | null;
  readonly brief: unknown;
}

interface NameRow extends Record<string, unknown> {
  readonly name: string;
}

/** Pages are told this often at most while rows are ordered. */
const TELL_EVERY_ROWS = 25;

/**
 * Orders what a batch asks for, row by row. A row and its rendition are written in one transaction, so that a server that
 * dies in between leaves neither a row without its rendition nor a rendition twice.
 *
 * @param onOrdered - Called after each, so that work begins while others are still ordered.
 */
export function createBatchHandler(context: Context, onOrdered: () => void): JobHandler<object> {
  const settled = (id: string): Settlement => ({
    kind: 'settled',
    write: () => Promise.resolve(),
    after: () => Promise.resolve(context.events.publish({ type: 'batch', id })),
  });
  return {
    kind: 'batch',
    lane: 'waited',
    yieldsTo: [],
    payload: object({}),
    run: async ({ subject: id }, signal) => {
      const [head] = await context.database.query<NameRow>(statements.FIND_BATCH, [id]);
      for (let ordered = 1; ; ordered += 1) {
        signal.throwIfAborted();
        const [row] = await context.database.query<AskedRow>(statements.NEXT_BATCH_ROW, [id]);
        if (!row) return settled(id);
        await orderRow(context, { id, name: head?.name ?? '' }, row);
        onOrdered();
        if (ordered % TELL_EVERY_ROWS === 0) context.events.publish({ type: 'batch', id });
      }
    },
    abandon: settled,
  };
}

async function orderRow(context: Context, batch: { id: string; name: string }, row: AskedRow): Promise<void> {
  try {
    const request = {
      programmeId: row.programme_id,
      recipe: readRecipe(row.recipe),
      portion: row.portion,
      name: null,
      keepFailed: false,
    };
    await orderRendition(context, request, { batch: { ...batch, number: row.number }, brief: readBrief(row.brief) });
  } catch (error) {
    if (!isRefusal(error)) throw error;
    const reason = JSON.stringify({ code: error.code, message: error.message });
    await context.database.query(statements.REFUSE_BATCH_ROW, [batch.id, row.number, reason]);
  }
}

function readBrief(stored: unknown): Brief | null {
  if (stored === null) return null;
  const parsed = parseWith(briefSchema, stored);
  return parsed.ok ? (parsed.value as Brief) : null;
}
