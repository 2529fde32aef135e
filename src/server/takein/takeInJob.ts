import { object } from 'yup';
import * as programmes from '../../store/statements/programmes.ts';
import * as statements from '../../store/statements/takeins.ts';
import type { Context } from '../context.ts';
import type { Job, JobHandler, Settlement } from '../jobs/job.ts';
import { takeIn } from '../programmes/programmes.ts';
import { isRefusal } from '../refusal.ts';
import { searchPaths } from './searchPaths.ts';
import { findRow, viewTakeIn } from './takeIns.ts';

/** Files looked at side by side: looking is mostly waiting for the disk and for small processes. */
const SIDE_BY_SIDE = 3;

/** The numbers are told this often while files come in. */
const TELL_EVERY_MS = 400;

/** Looks at files and takes them in, counting each: found = taken in + already in + refused. */
export function createTakeInHandler(context: Context): JobHandler<object> {
  const tell = async (id: string) => {
    context.events.publish({ type: 'takein', takeIn: await viewTakeIn(context, id) });
  };
  const end = (id: string, state: 'done' | 'stopped'): Settlement => ({
    kind: 'settled',
    write: (query) => query(statements.ENTER_TAKEIN, [id, state, context.now()]),
    after: () => tell(id),
  });
  return {
    kind: 'look',
    lane: 'waited',
    yieldsTo: [],
    payload: object({}),
    run: async (job, signal) => {
      await lookAtAll(context, job, signal, () => tell(job.subject));
      return end(job.subject, 'done');
    },
    abandon: (id) => end(id, 'stopped'),
    withdrawn: tell,
  };
}

async function lookAtAll(
  context: Context,
  job: Job<object>,
  signal: AbortSignal,
  tell: () => Promise<void>,
): Promise<void> {
  const { database } = context;
  const { subject: id } = job;
  const row = await findRow(context, id);
  if (row.state === 'searching') {
    const found = await searchPaths(context.config.mediaFolders, row.paths, row.subfolders, signal);
    await job.write(async (query) => {
      await query(statements.CLEAR_FILES, [id]);
      await query(statements.ADD_FILES, [id, JSON.stringify(found)]);
      await query(statements.ENTER_TAKEIN, [id, 'taking', null]);
    });
    await tell();
  }
  const waiting = await database.query<{ position: number; path: string }>(statements.WAITING_FILES, [id]);
  const known = new Set((await database.query<{ path: string }>(programmes.LIST_PATHS)).map((one) => one.path));
  let told = performance.now();
  const worker = async () => {
    for (let file = waiting.shift(); file; file = waiting.shift()) {
      signal.throwIfAborted();
      const settled = known.has(file.path) ? ALREADY : await settle(context, file.path, signal);
      const values = [id, file.position, settled.outcome, settled.problem];
      await job.write((query) => query(statements.SETTLE_FILE, values));
      if (performance.now() - told < TELL_EVERY_MS) continue;
      told = performance.now();
      await tell();
    }
  };
  await Promise.all(Array.from({ length: SIDE_BY_SIDE }, worker));
}

interface Settled {
  readonly outcome: 'taken-in' | 'already-in' | 'refused';
  readonly problem: string | null;
}

const ALREADY: Settled = { outcome: 'already-in', problem: null };

/** One file that cannot be taken in never holds up the others. */
async function settle(context: Context, file: string, signal: AbortSignal): Promise<Settled> {
  try {
    await takeIn(context, file, signal);
    return { outcome: 'taken-in', problem: null };
  } catch (error) {
    if (signal.aborted) throw error;
    if (!isRefusal(error)) context.logger.error({ file, err: error }, 'a file could not be taken in');
    if (isRefusal(error) && error.code === 'already-in') return ALREADY;
    const problem = isRefusal(error)
      ? { code: error.code, message: error.message }
      : { code: 'internal-error', message: 'Something unexpected went wrong with this file; the log has the details.' };
    return { outcome: 'refused', problem: JSON.stringify(problem) };
  }
}
