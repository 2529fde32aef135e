import path from 'node:path';
import * as statements from '../../store/statements/renditions.ts';
import type { Context } from '../context.ts';
import { withdrawUnrecorded } from '../renditions/destination.ts';
import { packQualities } from '../renditions/frameQualities.ts';
import { planOrder } from '../renditions/planning.ts';
import { findRendition, publishRendition } from '../renditions/renditions.ts';
import { outlineOf, type RenditionRow } from '../renditions/renditionRow.ts';
import { writeFill } from '../../contract/stored/result.ts';
import type { Problem, RenditionPosition } from '../../contract/views.ts';
import { clearUp, failWith, runRendition, type Outcome } from './runRendition.ts';
import { createStageReporter, type Position } from './stageReporter.ts';

/** A runner not heard of for this long is taken for dead, and its rendition claimed by another. */
const LOST_AFTER_MS = 20_000;

/** The position is written and sent this often at most. */
const REPORT_EVERY_MS = 1000;

/** Also when the engine is silent, as at the end of a pass, the runner says that it lives. */
const HEARTBEAT_MS = 5000;

/** Work given back by another runner is looked for this often. */
const LOOK_EVERY_MS = 5000;

/** Attempts that end without a word, from which on a rendition is not begun again. */
const MOST_LOST = 10;

const LOST_TOO_OFTEN: Problem = {
  code: 'given-up',
  message:
    'The server ended ten times during this rendition, or its result could not be recorded, so it was set aside and the others go on. If it is not this one’s fault, order it again.',
};

/** An encoder that was killed, or had no memory left, is given so many more tries. */
const MORE_TRIES = 1;

/** Claims queued renditions one after another and carries them out. */
export interface Runner {
  /** Looks for work now. */
  wake(): void;
  /**
   * Ends the work on a rendition that was stopped.
   *
   * @returns Whether this runner is at it.
   */
  cancel(renditionId: string): boolean;
  /** Ends all work, encoders included; what was running goes back to the queue at the next start. */
  stop(): Promise<void>;
}

/**
 * Starts a runner.
 *
 * @param name - The same after a restart, so that it can give back what its last life left unfinished.
 */
export async function startRunner(context: Context, name: string): Promise<Runner> {
  const stopping = new AbortController();
  let current: { id: string; abort: AbortController } | null = null;
  let loop: Promise<void> | null = null;
  let isWanted = false;

  const recovered = await context.database.query<{ id: string }>(statements.REQUEUE_OF_RUNNER, [name]);
  for (const { id } of recovered) context.logger.info({ rendition: id }, 'queued again after a restart');

  const work = async () => {
    while (isWanted && !stopping.signal.aborted) {
      isWanted = false;
      for (let claimed = await claim(context, name); claimed; claimed = await claim(context, name)) {
        current = { id: claimed.id, abort: new AbortController() };
        await carryOut(context, claimed, stopping.signal, current.abort);
        current = null;
        if (stopping.signal.aborted) return;
      }
    }
  };
  const wake = () => {
    isWanted = true;
    if (stopping.signal.aborted) return;
    loop ??= work()
      .catch((error: unknown) => context.logger.error({ err: error }, 'the runner tripped and goes on'))
      .finally(() => (loop = null));
  };
  const timer = setInterval(wake, LOOK_EVERY_MS);
  wake();
  return {
    wake,
    cancel: (renditionId) => {
      if (current?.id !== renditionId) return false;
      current.abort.abort();
      return true;
    },
    stop: async () => {
      clearInterval(timer);
      stopping.abort();
      await loop;
    },
  };
}

async function claim(context: Context, name: string): Promise<RenditionRow | null> {
  const now = context.now();
  const lostBefore = new Date(now.getTime() - LOST_AFTER_MS);
  const values = [MOST_LOST, JSON.stringify(LOST_TOO_OFTEN), lostBefore, now];
  for (const { id } of await context.database.query<{ id: string }>(statements.SET_ASIDE, values)) {
    context.logger.warn({ rendition: id }, 'set aside');
    await clearUp(context, await findRendition(context, id));
    await publishRendition(context, id);
  }
  const [claimed] = await context.database.query<{ id: string }>(statements.CLAIM_RENDITION, [name, now, lostBefore]);
  return claimed ? findRendition(context, claimed.id) : null;
}

async function carryOut(
  context: Context,
  claimed: RenditionRow,
  stopping: AbortSignal,
  abort: AbortController,
): Promise<void> {
  const logger = context.logger.child({ rendition: claimed.id, attempt: claimed.attempt });
  logger.info('started');
  const signal = AbortSignal.any([stopping, abort.signal]);
  const row = await planAgain(context, claimed);
  if (!row) return;
  const reports = createReports(context, row, () => abort.abort());
  const reporter = createStageReporter(row.plan.passes, () => performance.now(), reports.take);
  try {
    const outcome = await runRendition(context, row, reporter, signal);
    await reports.close();
    if (shouldTryAgain(row, outcome)) {
      await context.database.query(statements.TRY_AGAIN, [row.id, row.attempt]);
      logger.warn({ problem: outcome.problem?.code }, 'is tried once more');
    } else {
      // Whoever reads that it failed finds nothing of it left.
      if (!outcome.hasFile) await clearUp(context, row);
      await record(context, row, outcome);
      logger.info({ state: outcome.state, bytes: outcome.bytes, problem: outcome.problem?.code }, 'ended');
      if (outcome.hasFile) await clearUp(context, row);
    }
  } catch (error) {
    await reports.close();
    if (!signal.aborted) throw error;
    logger.info('stopped');
    // A server that is stopped in order goes on at its next start with what is done already.
    if (stopping.aborted) await context.database.query(statements.GIVE_BACK, [row.id, row.attempt]);
    else await clearUp(context, row);
  } finally {
    await publishRendition(context, row.id).catch(() => undefined);
  }
}

/**
 * While it waited its master may have changed, its picture been sounded, or the application been renewed.
 *
 * @returns null when it cannot be carried out any more, which is then recorded.
 */
async function planAgain(context: Context, row: RenditionRow): Promise<RenditionRow | null> {
  const { id, attempt, recipe, portion } = row;
  try {
    const order = { programmeId: row.programme_id, recipe, portion, name: null, keepFailed: row.keep_failed };
    const { plan } = await planOrder(context, order);
    const { passes, budget } = plan;
    const values = [passes.length, budget.expected?.likely ?? null, JSON.stringify(outlineOf(plan))];
    await context.database.query(statements.SAVE_PLAN, [id, attempt, JSON.stringify(plan), ...values]);
    return { ...row, plan };
  } catch (error) {
    const outcome = failWith(context, row, error);
    await clearUp(context, row);
    await record(context, row, outcome);
    await publishRendition(context, id).catch(() => undefined);
    return null;
  }
}

function shouldTryAgain(row: RenditionRow, { problem }: Outcome): boolean {
  const isTheMachines = problem?.code === 'engine-killed' || problem?.code === 'memory-limit';
  return isTheMachines && row.engine_deaths < MORE_TRIES;
}

/** The record first, then the temporary name goes: a crash between the two leaves a file that is known as ours. */
async function record(context: Context, row: RenditionRow, outcome: Outcome): Promise<void> {
  const rows = await context.database.query(statements.FINISH_RENDITION, [
    row.id,
    row.attempt,
    outcome.state,
    context.now(),
    outcome.bytes,
    JSON.stringify(outcome.checks),
    outcome.quality && JSON.stringify(outcome.quality),
    writeFill(outcome.fill),
    outcome.encodeSeconds,
    outcome.checkSeconds,
    outcome.hasFile,
    outcome.problem && JSON.stringify(outcome.problem),
    outcome.frames.length > 0 ? packQualities(outcome.frames) : null,
    outcome.state === 'done' ? 1 : row.fraction,
    outcome.path,
    path.basename(outcome.path),
  ]);
  // Another attempt owns the rendition, or it was stopped in its last moment: this file is nobody's.
  if (rows.length === 0 && outcome.hasFile) await withdrawUnrecorded(outcome.path, row.id);
}

interface Reports {
  readonly take: (position: Position) => void;
  readonly close: () => Promise<void>;
}

/** Writes positions at a steady pace, one at a time; a write that finds no row means that the work is not ours. */
function createReports(context: Context, row: RenditionRow, onLost: () => void): Reports {
  let latest: Position | null = null;
  let lastMs = -Infinity;
  let writing: Promise<void> | null = null;
  const write = async (position: Position) => {
    const rows = await context.database.query(statements.REPORT_PROGRESS, [
      row.id,
      row.attempt,
      context.now(),
      position.stage === 'checking' ? 'checking' : 'running',
      position.stage,
      position.pass,
      position.passes,
      position.fraction,
      position.framesPerSecond,
      position.secondsLeft,
    ]);
    if (rows.length === 0) onLost();
    else context.events.publish({ type: 'position', id: row.id, position: viewPosition(position) });
  };
  const flush = () => {
    if (!latest || writing) return;
    lastMs = performance.now();
    writing = write(latest)
      .catch((error: unknown) => context.logger.warn({ rendition: row.id, err: error }, 'a position was not written'))
      .finally(() => (writing = null));
  };
  const timer = setInterval(flush, HEARTBEAT_MS);
  return {
    take: (position) => {
      const isNewStage = position.stage !== latest?.stage;
      latest = position;
      if (isNewStage || performance.now() - lastMs >= REPORT_EVERY_MS) flush();
    },
    close: async () => {
      clearInterval(timer);
      await writing;
    },
  };
}

function viewPosition({ stage, ...position }: Position): RenditionPosition {
  return { state: stage === 'checking' ? 'checking' : 'running', stage, ...position };
}
