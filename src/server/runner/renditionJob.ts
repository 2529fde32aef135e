import path from 'node:path';
import { object } from 'yup';
import { soundingOf } from '../../contract/sounding.ts';
import { writeFill } from '../../contract/stored/result.ts';
import type { Problem, RenditionPosition } from '../../contract/views.ts';
import { fillsSize } from '../../core/recipe/recipe.ts';
import { workingClock } from '../line/workingClock.ts';
import type { Line } from '../line/line.ts';
import * as statements from '../../store/statements/renditions.ts';
import * as trials from '../../store/statements/trials.ts';
import type { Query } from '../../store/database.ts';
import { foreseeSeconds, speedsOf } from '../../core/forecast/encodeTime.ts';
import { encodeKindOf, firstPassOf, workOfPlan } from '../../core/forecast/encodeWork.ts';
import { EVEN_PACE, paceOf } from '../../core/forecast/pace.ts';
import { isEncoded, pictureOf } from '../../core/plan/encodePlan.ts';
import { RATED } from '../../core/video/codecs.ts';
import { toStep } from '../../core/video/qualityStep.ts';
import { readFindings } from '../analysis/readAnalysis.ts';
import type { Context } from '../context.ts';
import { viewSpeeds } from '../forecast/speeds.ts';
import type { Job, JobHandler, Settlement } from '../jobs/job.ts';
import { withdrawUnrecorded } from '../renditions/destination.ts';
import { packQualities } from '../renditions/packedQualities.ts';
import { planOrder } from '../renditions/planOrder.ts';
import { findRendition, tellOfRendition } from '../renditions/renditions.ts';
import { outlineOf, type RenditionRow } from '../renditions/renditionRow.ts';
import { soundBefore, soundCloser } from '../soundings/soundings.ts';
import { measureSizes } from '../trials/openSize.ts';
import { clearUp, failWith, runRendition, type Outcome } from './runRendition.ts';
import { USUAL_OF_FILLS } from './progress.ts';
import { createStageReporter, type Position } from './stageReporter.ts';

/** The position is written and sent this often at most. */
const REPORT_EVERY_MS = 1000;

const LOST_TOO_OFTEN: Problem = {
  code: 'given-up',
  message:
    'The server ended ten times during this rendition, or its result could not be recorded, so it was set aside and the others go on. If it is not this one’s fault, order it again.',
};

/** An encoder that was killed, or had no memory left, is given so many more tries. */
const MORE_TRIES = 1;

/** What one attempt tells the next. */
interface Checkpoint {
  /** How often an encoder was killed or ran out of memory. */
  readonly engineDeaths: number;
}

type RenditionJob = Job<object>;

/** Carries renditions out. */
export function createRenditionHandler(context: Context, line: Pick<Line, 'begin'>): JobHandler<object> {
  const tell = (id: string) => tellOfRendition(context, id).catch(() => undefined);
  return {
    kind: 'rendition',
    lane: 'encode',
    yieldsTo: [],
    payload: object({}),
    run: async (job, signal) => {
      const claimed = await findRendition(context, job.subject);
      const isOurs = await job.write((query) => query(statements.BEGIN_RENDITION, [claimed.id]));
      if (!isOurs) signal.throwIfAborted();
      const row = await planAgain(context, job, claimed, signal);
      const outcome = 'plan' in row ? await attempt(context, { job, row, line }, signal) : row;
      if (outcome.problem && isOutOfRoom(outcome.problem)) return putOff(context, claimed, outcome.problem);
      if (shouldTryAgain(job, outcome)) {
        const checkpoint: Checkpoint = { engineDeaths: deathsOf(job) + 1 };
        const write: Settlement['write'] = (query) => query(statements.REQUEUE_RENDITION, [claimed.id]);
        return { kind: 'again', checkpoint, write, after: () => tell(claimed.id) };
      }
      return settlementOf(context, 'plan' in row ? row : claimed, outcome);
    },
    abandon: (id) => ({
      kind: 'settled',
      write: (query) => query(statements.SET_ASIDE, [id, JSON.stringify(LOST_TOO_OFTEN), context.now()]),
      after: async () => {
        await clearUp(context, await findRendition(context, id));
        await tell(id);
      },
    }),
    released: (id, query) => query(statements.REQUEUE_RENDITION, [id]),
    afterRelease: tell,
    withdrawn: async (id) => {
      await clearUp(context, await findRendition(context, id));
      await tell(id);
    },
  };
}

/** A full disk is nobody's fault: it is waited for. */
function isOutOfRoom({ code }: Problem): boolean {
  return code === 'destination-full' || code === 'disk-full';
}

const LOOK_FOR_ROOM_SECONDS = 60;

/** What was made of it takes the room that is missing, so it goes. */
function putOff(context: Context, row: RenditionRow, problem: Problem): Settlement {
  const { id } = row;
  const waits = { code: problem.code, message: `It waits for room. ${problem.message}` };
  return {
    kind: 'again',
    checkpoint: {},
    afterSeconds: LOOK_FOR_ROOM_SECONDS,
    write: (query) => query(statements.PUT_OFF_RENDITION, [id, JSON.stringify(waits)]),
    after: async () => {
      await clearUp(context, row);
      await tellOfRendition(context, id);
    },
  };
}

interface Attempted {
  readonly job: RenditionJob;
  readonly row: RenditionRow;
  readonly line: Pick<Line, 'begin'>;
}

async function attempt(context: Context, { job, row, line }: Attempted, signal: AbortSignal): Promise<Outcome> {
  const reports = createReports(context, job);
  const kind = encodeKindOf(row.plan);
  const busyness = (await readFindings(context, row.programme_id))?.busyness;
  const foreseen = {
    planned: row.plan.passes,
    usual: kind?.way === 'filling' ? USUAL_OF_FILLS : [],
    firstPass: kind ? firstPassOf(kind.codec) : 1,
    expected: foreseeSeconds(row.plan, speedsOf(row.programme_id, await viewSpeeds(context))),
    pace: busyness ? paceOf(busyness, row.plan.span) : EVEN_PACE,
  };
  const { hold, end } = line.begin(row.id);
  const clock = workingClock(hold);
  const reporter = createStageReporter(foreseen, clock, reports.take);
  try {
    return await runRendition(
      context,
      row,
      job.runner,
      { reporter, hold, now: clock, besideSeconds: job.besideSeconds },
      signal,
    );
  } finally {
    end();
    await reports.close();
  }
}

/**
 * While it waited its master may have changed, its picture been sounded, or the application been renewed.
 *
 * @returns The outcome when it cannot be carried out any more.
 */
async function planAgain(
  context: Context,
  job: RenditionJob,
  row: RenditionRow,
  signal: AbortSignal,
): Promise<RenditionRow | Outcome> {
  const { id, recipe, portion } = row;
  try {
    await foresee(context, row, signal);
    const order = { programmeId: row.programme_id, recipe, portion, name: null, keepFailed: row.keep_failed };
    const foreseen = await planOrder(context, order);
    const isCloser = await soundItsQuality(context, row, foreseen, signal);
    const { plan } = isCloser ? await planOrder(context, order) : foreseen;
    const { passes, budget } = plan;
    const values = [
      passes.length,
      budget.expected?.likely ?? null,
      JSON.stringify(outlineOf(plan)),
      JSON.stringify(workOfPlan(plan)),
    ];
    await job.write((query) => query(statements.SAVE_PLAN, [id, JSON.stringify(plan), ...values]));
    return { ...row, plan };
  } catch (error) {
    if (signal.aborted) throw error;
    return failWith(context, row, error);
  }
}

/** A size is filled from the quality that was foreseen, at the frame size that measured best where that was left open. */
async function foresee(context: Context, row: RenditionRow, signal: AbortSignal): Promise<void> {
  const { recipe, source_facts: facts, portion } = row;
  const request = fillsSize(recipe) ? soundingOf(facts, recipe, portion) : null;
  if (!request) return;
  const warn = (error: unknown) => warnUnmeasured(context, row, error, signal);
  await soundBefore(context, row.programme_id, request, signal).catch(warn);
  await measureSizes(context, row.programme_id, { recipe, portion }, signal).catch(warn);
}

/**
 * And once more at the quality itself, where grain is dropped about there; trials have looked close enough.
 *
 * @returns Whether more is known now.
 */
async function soundItsQuality(
  context: Context,
  row: RenditionRow,
  { programme, plan }: Awaited<ReturnType<typeof planOrder>>,
  signal: AbortSignal,
): Promise<boolean> {
  const picture = pictureOf(plan);
  if (!picture || !isEncoded(picture)) return false;
  const { codec, rate } = picture.do;
  const isSounded = plan.budget.soundedBytes !== undefined;
  if (!isSounded || rate.kind !== 'fill' || rate.quality === null) return false;
  const request = soundingOf(programme.facts, row.recipe, row.portion);
  if (!request) return false;
  const quality = toStep(RATED[codec].quality, rate.quality);
  return soundCloser(context, row.programme_id, { ...request, ...picture.out.size }, quality, signal).catch((error) => {
    warnUnmeasured(context, row, error, signal);
    return false;
  });
}

/** It is filled all the same, from further off. */
function warnUnmeasured(context: Context, { id }: RenditionRow, error: unknown, signal: AbortSignal): void {
  if (signal.aborted) throw error;
  context.logger.warn({ rendition: id, err: error }, 'what a size will take could not be measured');
}

function deathsOf({ checkpoint }: RenditionJob): number {
  return (checkpoint as Checkpoint | null)?.engineDeaths ?? 0;
}

function shouldTryAgain(job: RenditionJob, { problem }: Outcome): boolean {
  const isTheMachines = problem?.code === 'engine-killed' || problem?.code === 'memory-limit';
  return isTheMachines && deathsOf(job) < MORE_TRIES;
}

/** The record first, then the temporary name goes: a crash between the two leaves a file that is known as ours. */
async function settlementOf(context: Context, row: RenditionRow, outcome: Outcome): Promise<Settlement> {
  // Whoever reads that it failed finds nothing of it left.
  if (!outcome.hasFile) await clearUp(context, row);
  context.logger.info({ rendition: row.id, state: outcome.state, problem: outcome.problem?.code }, 'came out');
  return {
    kind: 'settled',
    write: async (query) => {
      await query(statements.FINISH_RENDITION, [
        row.id,
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
        outcome.besideShare,
      ]);
      await proveForecast(query, row, outcome, context.now());
    },
    after: async () => {
      if (outcome.hasFile) await clearUp(context, row);
      await tellOfRendition(context, row.id).catch(() => undefined);
    },
    // Another attempt owns it, or it was stopped in its last moment: this file is nobody's.
    discard: async () => {
      if (outcome.hasFile) await withdrawUnrecorded(outcome.path, row.id);
      await clearUp(context, row);
    },
  };
}

/** What was foreseen from trials is held against what came of it, so that error bars can be. */
async function proveForecast(query: Query, { id, plan }: RenditionRow, { bytes }: Outcome, now: Date): Promise<void> {
  const { triedError, split } = plan.budget;
  const picture = pictureOf(plan);
  if (triedError === undefined || split.video === null || bytes === null || !picture) return;
  const real = bytes - split.audio - split.container;
  if (real > 0) await query(trials.SAVE_OUTCOME, [id, picture.do.codec, split.video, triedError, real, now]);
}

interface Reports {
  readonly take: (position: Position) => void;
  readonly close: () => Promise<void>;
}

/** Writes positions at a steady pace, one at a time. */
function createReports(context: Context, job: RenditionJob): Reports {
  let latest: Position | null = null;
  let lastMs = -Infinity;
  let writing: Promise<void> | null = null;
  const write = async (at: Position) => {
    const { state, stage, ...rest } = viewPosition(at);
    const values = [job.subject, state, stage, rest.pass, rest.passes, rest.fraction];
    const isOurs = await job.write((query) =>
      query(statements.REPORT_PROGRESS, [...values, rest.framesPerSecond, rest.secondsLeft]),
    );
    if (isOurs) context.events.publish({ type: 'position', id: job.subject, position: { state, stage, ...rest } });
  };
  const flush = () => {
    if (!latest || writing) return;
    lastMs = performance.now();
    writing = write(latest)
      .catch((error: unknown) =>
        context.logger.warn({ rendition: job.subject, err: error }, 'a position was not written'),
      )
      .finally(() => (writing = null));
  };
  return {
    take: (position) => {
      const isNewStage = position.stage !== latest?.stage;
      latest = position;
      if (isNewStage || performance.now() - lastMs >= REPORT_EVERY_MS) flush();
    },
    close: async () => {
      await writing;
    },
  };
}

function viewPosition({ stage, ...position }: Position): RenditionPosition {
  return { state: stage === 'checking' ? 'checking' : 'running', stage, ...position };
}
