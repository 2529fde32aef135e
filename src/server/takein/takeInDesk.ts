import type { TakeInView } from '../../contract/views.ts';
import * as programmes from '../../store/statements/programmes.ts';
import * as statements from '../../store/statements/takeins.ts';
import type { Context } from '../context.ts';
import { takeIn } from '../programmes/programmes.ts';
import { isRefusal, Refusal } from '../refusal.ts';
import { searchPaths } from './searchPaths.ts';

/** Files looked at side by side: looking is mostly waiting for the disk and for small processes. */
const SIDE_BY_SIDE = 3;

/** The numbers are told this often while files come in. */
const TELL_EVERY_MS = 400;

/** Refused files that are told one by one. */
const MOST_REFUSED_SHOWN = 100;

/** Past take-ins whose numbers stay in sight. */
const SHOWN = 5;

/** Takes in many files in the background, counting each: found = taken in + already in + refused. */
export interface TakeInDesk {
  begin(paths: readonly string[], subfolders: boolean): Promise<TakeInView>;
  /** What is done stays done; the rest is left. */
  cancel(id: string): Promise<TakeInView>;
  view(id: string): Promise<TakeInView>;
  /** Puts a report away; it is not among the latest any more. */
  dismiss(id: string): Promise<void>;
  latest(): Promise<TakeInView[]>;
  isUnderway(): boolean;
  stop(): Promise<void>;
}

interface TakeInRow extends Record<string, unknown> {
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
}

export function createTakeInDesk(context: Context): TakeInDesk {
  const stopping = new AbortController();
  const running = new Map<string, { abort: AbortController; ended: Promise<void> }>();
  const { database } = context;

  const tell = async (id: string) => {
    context.events.publish({ type: 'takein', takeIn: await viewTakeIn(context, id) });
  };
  const start = (id: string) => {
    const abort = new AbortController();
    const signal = AbortSignal.any([stopping.signal, abort.signal]);
    const ended = carryOut(context, id, signal, () => tell(id))
      .catch(async (error: unknown) => {
        if (signal.aborted) return;
        context.logger.error({ takein: id, err: error }, 'taking in failed');
        await database.query(statements.ENTER_TAKEIN, [id, 'stopped', context.now()]);
      })
      .finally(() => running.delete(id))
      .then(() => (stopping.signal.aborted ? undefined : tell(id)));
    running.set(id, { abort, ended });
  };

  // What a server that ended left half done is gone on with.
  const resumed = database.query<{ id: string }>(statements.UNFINISHED_TAKEINS).then(
    (rows) => rows.forEach(({ id }) => start(id)),
    (error: unknown) => context.logger.warn({ err: error }, 'unfinished take-ins were not found'),
  );

  return {
    begin: async (paths, subfolders) => {
      const id = context.newId();
      await database.query(statements.INSERT_TAKEIN, [id, JSON.stringify(paths), subfolders, context.now()]);
      start(id);
      return viewTakeIn(context, id);
    },
    cancel: async (id) => {
      await viewTakeIn(context, id);
      await database.query(statements.ENTER_TAKEIN, [id, 'stopped', context.now()]);
      running.get(id)?.abort.abort();
      await running.get(id)?.ended;
      return viewTakeIn(context, id);
    },
    view: (id) => viewTakeIn(context, id),
    dismiss: async (id) => {
      await findRow(context, id);
      await database.query(statements.DISMISS_TAKEIN, [id, context.now()]);
    },
    latest: async () => {
      const rows = await database.query<{ id: string }>(statements.LATEST_TAKEINS, [SHOWN]);
      return Promise.all(rows.map(({ id }) => viewTakeIn(context, id)));
    },
    isUnderway: () => running.size > 0,
    stop: async () => {
      stopping.abort();
      await resumed;
      await Promise.all(Array.from(running.values(), ({ ended }) => ended));
    },
  };
}

async function carryOut(context: Context, id: string, signal: AbortSignal, tell: () => Promise<void>): Promise<void> {
  const { database } = context;
  const row = await findRow(context, id);
  if (row.state === 'searching') {
    const found = await searchPaths(context.config.mediaFolders, row.paths, row.subfolders, signal);
    await database.transaction(async (query) => {
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
      await database.query(statements.SETTLE_FILE, [id, file.position, settled.outcome, settled.problem]);
      if (performance.now() - told < TELL_EVERY_MS) continue;
      told = performance.now();
      await tell();
    }
  };
  await Promise.all(Array.from({ length: SIDE_BY_SIDE }, worker));
  await database.query(statements.ENTER_TAKEIN, [id, 'done', context.now()]);
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

async function findRow(context: Context, id: string): Promise<TakeInRow> {
  const [row] = await context.database.query<TakeInRow>(statements.FIND_TAKEIN, [id]);
  if (!row) throw new Refusal('not-found', `There is no take-in ${id}.`);
  return row;
}

async function viewTakeIn(context: Context, id: string): Promise<TakeInView> {
  const row = await findRow(context, id);
  const refused = await context.database.query<{ path: string; problem: { code: string; message: string } }>(
    statements.LIST_REFUSED,
    [id, MOST_REFUSED_SHOWN],
  );
  return {
    id,
    state: row.state,
    paths: row.paths,
    found: row.found,
    takenIn: row.taken_in,
    alreadyIn: row.already_in,
    refusedCount: row.refused,
    refused: refused.map(({ path, problem }) => ({ path, ...problem })),
    startedAt: row.started_at.toISOString(),
    endedAt: row.ended_at?.toISOString() ?? null,
  };
}
