import { availableParallelism } from 'node:os';
import { parseWith } from '../../contract/strictObject.ts';
import type { Query } from '../../store/database.ts';
import * as statements from '../../store/statements/jobs.ts';
import type { Context } from '../context.ts';
import { LANES, PRIORITY, type Job, type JobHandler, type JobKind, type Lane, type Settlement } from './job.ts';
import { watchSharing, type Shared } from './sharing.ts';

/** A runner that did not hold its job for so long is taken for dead, and another takes it over. */
const LEASE_MS = 20_000;
const HOLD_EVERY_MS = 5000;

/** Work that another process put into the queue is looked for this often, besides being told of it. */
const LOOK_EVERY_MS = 5000;

/** Attempts that end without a word, from which on a job is not begun again. */
const MOST_LOST = 10;

/** Jobs side by side in each lane of this process. */
const ROOM: Readonly<Record<Exclude<Lane, 'encode'>, number>> = {
  waited: Math.max(2, availableParallelism()),
  trial: 1,
  watched: 2,
  gentle: 1,
};

const LOWEST_PRIORITY = Math.max(...Object.values(PRIORITY));

/** On this channel processes tell each other that there is work, or that some was withdrawn. */
const CHANNEL = 'linstock_jobs';

/** Shares this process's cores out among the jobs of one queue. */
export interface Scheduler {
  /** Looks for work now, and tells other processes to. */
  wake(): void;
  /**
   * Ends the work on a job that was taken out of the queue, here or wherever it is done.
   *
   * @returns Whether it was done here; then it has ended.
   */
  end(kind: JobKind, subject: string): Promise<boolean>;
  /** Ends all work in order; what was underway goes back into the line. */
  stop(): Promise<void>;
}

interface JobRow extends Record<string, unknown> {
  readonly id: number;
  readonly kind: JobKind;
  readonly subject: string;
  readonly payload: unknown;
  readonly attempt: number;
  readonly lost: number;
  readonly checkpoint: unknown;
}

interface Underway {
  readonly kind: JobKind;
  readonly subject: string;
  readonly lane: Lane;
  readonly abort: AbortController;
  readonly ended: Promise<void>;
}

// Each handler parses its own payload; the list cannot name all their types.
// eslint-disable-next-line @typescript-eslint/no-explicit-any
type AnyHandler = JobHandler<any>;

/**
 * Starts sharing out.
 *
 * @param runner - The same after a restart, so that it can give back what its last life left unfinished.
 * @param encodeRoom - Jobs of the encoders' lane that may go side by side now.
 */
export async function startScheduler(
  context: Context,
  runner: string,
  handlers: readonly AnyHandler[],
  encodeRoom: () => number,
): Promise<Scheduler> {
  const { database, logger } = context;
  const stopping = new AbortController();
  for (const { kind, subject } of await database.query<JobRow>(statements.RELEASE_JOBS_OF, [runner])) {
    logger.info({ kind, subject }, 'in the line again after a restart');
    await handlers.find((one) => one.kind === kind)?.released?.(subject, database.query);
  }
  const { look, find, ended } = createClaimer(context, { runner, handlers, encodeRoom }, stopping.signal);
  const tell = (text: string) =>
    void database.notify(CHANNEL, text).catch((error: unknown) => logger.warn({ err: error }, 'nobody could be told'));
  const silence = await database.listen(CHANNEL, (text) => {
    const [kind, subject] = text ? (JSON.parse(text) as [JobKind, string]) : [];
    if (kind && subject) find(kind, subject)?.abort.abort();
    else look();
  });
  const timer = setInterval(look, LOOK_EVERY_MS);
  look();
  return {
    wake: () => {
      look();
      tell('');
    },
    end: async (kind, subject) => {
      const own = find(kind, subject);
      own?.abort.abort();
      if (!own) tell(JSON.stringify([kind, subject]));
      await own?.ended;
      return own !== undefined;
    },
    stop: async () => {
      clearInterval(timer);
      stopping.abort();
      await silence();
      await ended();
    },
  };
}

interface ClaimerParts {
  readonly runner: string;
  readonly handlers: readonly AnyHandler[];
  readonly encodeRoom: () => number;
}

/** Claims jobs as long as their lanes have room, and knows which are underway. */
function createClaimer(context: Context, { runner, handlers, encodeRoom }: ClaimerParts, stopping: AbortSignal) {
  const { database, logger } = context;
  const underway = new Set<Underway>();
  const sharing = watchSharing();
  let claiming: Promise<void> | null = null;
  let isWanted = false;

  const isOpen = (lane: Lane, { yieldsTo }: AnyHandler) => {
    const busy = [...underway];
    return (
      busy.filter((one) => one.lane === lane).length < (lane === 'encode' ? encodeRoom() : ROOM[lane]) &&
      !busy.some(({ kind }) => yieldsTo.includes(kind))
    );
  };
  const begin = (handler: AnyHandler, row: JobRow, lane: Lane) => {
    const abort = new AbortController();
    const signal = AbortSignal.any([stopping, abort.signal]);
    const { kind, subject } = row;
    const shared = sharing.enter(lane);
    const ended = carryOut(context, runner, handler, { ...row, lane, shared }, { signal, abort, stopping })
      .catch((error: unknown) => logger.error({ kind, subject, err: error }, 'a job tripped'))
      .finally(() => {
        underway.delete(entry);
        shared.leave();
        look();
      });
    const entry: Underway = { kind, subject, lane, abort, ended };
    underway.add(entry);
  };
  /** @returns Whether there was something to claim. */
  const claimIn = async (lane: Lane): Promise<boolean> => {
    const own = lane === 'watched' ? 'gentle' : lane;
    const open = handlers.filter((one) => one.lane === own && isOpen(lane, one));
    if (open.length === 0) return false;
    const lowest = lane === 'watched' ? PRIORITY.lookedAt : LOWEST_PRIORITY;
    const values = [runner, LEASE_MS, open.map(({ kind }) => kind).join(','), lowest];
    const [row] = await database.query<JobRow>(statements.CLAIM_JOB, values);
    const handler = open.find(({ kind }) => kind === row?.kind);
    if (!row || !handler) return false;
    begin(handler, row, lane);
    return true;
  };
  const claimAll = async () => {
    while (isWanted && !stopping.aborted) {
      isWanted = false;
      for (const lane of LANES) {
        while (!stopping.aborted && (await claimIn(lane)));
      }
    }
  };
  const look = () => {
    isWanted = true;
    if (stopping.aborted) return;
    claiming ??= claimAll()
      .catch((error: unknown) => logger.error({ err: error }, 'no work could be claimed'))
      .finally(() => {
        claiming = null;
        // Asked for between the last look and now.
        if (isWanted) look();
      });
  };
  return {
    look,
    find: (kind: JobKind, subject: string) => [...underway].find((one) => one.kind === kind && one.subject === subject),
    ended: async () => {
      await claiming;
      await Promise.all([...underway].map(({ ended }) => ended));
    },
  };
}

interface Signals {
  readonly signal: AbortSignal;
  readonly abort: AbortController;
  /** The server is being stopped: the job goes back into the line. */
  readonly stopping: AbortSignal;
}

async function carryOut(
  context: Context,
  runner: string,
  handler: AnyHandler,
  row: JobRow & { readonly lane: Lane; readonly shared: Shared },
  { signal, abort, stopping }: Signals,
): Promise<void> {
  const { database } = context;
  const logger = context.logger.child({ kind: row.kind, subject: row.subject, attempt: row.attempt });
  const own = [row.id, row.attempt];
  if (row.lost >= MOST_LOST) {
    logger.warn('set aside');
    return settle(context, row, handler.abandon(row.subject));
  }
  const hold = setInterval(() => {
    database.query(statements.HOLD_JOB, [...own, LEASE_MS]).then(
      (rows) => rows.length > 0 || abort.abort(),
      (error: unknown) => logger.warn({ err: error }, 'a job could not be held'),
    );
  }, HOLD_EVERY_MS);
  const write: Job<unknown>['write'] = (work) =>
    database.transaction(async (query) => {
      if ((await query(statements.LOCK_JOB, own)).length === 0) {
        abort.abort();
        return false;
      }
      await work(query);
      return true;
    });
  logger.info('begun');
  try {
    const parsed = parseWith(handler.payload, row.payload);
    if (!parsed.ok) throw new Error(`A job cannot be read: ${parsed.faults[0].message}`);
    const { id, subject, attempt, checkpoint, lane } = row;
    const { besideSeconds } = row.shared;
    const job = {
      id,
      subject,
      payload: parsed.value as unknown,
      attempt,
      checkpoint,
      lane,
      runner,
      besideSeconds,
      write,
    };
    await settle(context, row, await handler.run(job, signal));
    logger.info('ended');
  } catch (error) {
    if (!signal.aborted) throw error;
    if (stopping.aborted) await release(database, handler, row);
    else await handler.withdrawn?.(row.subject);
    logger.info('stopped');
  } finally {
    clearInterval(hold);
  }
}

/** The outcome and the end of the job are one step: a death in between leaves both undone. */
async function settle({ database }: Context, row: JobRow, settlement: Settlement): Promise<void> {
  const isOurs = await database.transaction(async (query) => {
    const rows =
      settlement.kind === 'settled'
        ? await query(statements.SETTLE_JOB, [row.id, row.attempt])
        : await query(statements.RETRY_JOB, [
            row.id,
            row.attempt,
            JSON.stringify(settlement.checkpoint),
            settlement.afterSeconds ?? 0,
          ]);
    if (rows.length > 0) await settlement.write(query);
    return rows.length > 0;
  });
  if (isOurs) await settlement.after?.();
  else if (settlement.kind === 'settled') await settlement.discard?.();
}

async function release(
  { transaction }: Pick<Context['database'], 'transaction'>,
  handler: AnyHandler,
  row: JobRow,
): Promise<void> {
  const isOurs = await transaction(async (query: Query) => {
    const rows = await query(statements.RELEASE_JOB, [row.id, row.attempt]);
    if (rows.length > 0) await handler.released?.(row.subject, query);
    return rows.length > 0;
  });
  if (isOurs) await handler.afterRelease?.(row.subject);
}
