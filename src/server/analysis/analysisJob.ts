import { mkdir, readdir, rename, rm } from 'node:fs/promises';
import path from 'node:path';
import { object } from 'yup';
import type { AnalysisView } from '../../contract/views.ts';
import { concludeFindings, type Series } from '../../core/analysis/conclude.ts';
import type { MeasuredStretch } from '../../core/analysis/measured.ts';
import { planAnalysis, type AnalysisPlan, type AnalysisStretch } from '../../core/analysis/planAnalysis.ts';
import { listenTo } from '../../core/programme/channelTracks.ts';
import { assumeColour } from '../../core/programme/colour.ts';
import type { ProgrammeFacts } from '../../core/programme/facts.ts';
import type { AnalysisRequest } from '../../engine/arguments/analyse.ts';
import { isEngineError } from '../../engine/engineError.ts';
import * as statements from '../../store/statements/analyses.ts';
import type { Context } from '../context.ts';
import { identityOf, withMaster } from '../programmes/masters.ts';
import { readClock } from '../programmes/frameTimes.ts';
import type { Job, JobHandler, Settlement } from '../jobs/job.ts';
import { findProgramme, summariseProgramme, type ProgrammeRow } from '../programmes/programmes.ts';
import { isRefusal } from '../refusal.ts';
import { stripFolder } from './stripFolder.ts';

/** A stretch may take this long, and this many times its own length, before it is given up. */
const LEAST_LIMIT_MS = 3 * 60_000;
const LIMIT_TIMES_LENGTH = 40;

/** Analyses programmes, stretch by stretch: gently, unless someone looks at them. */
export interface AnalysisHandler extends JobHandler<object> {
  /** How far the analysis of a programme is, from 0 to 1; null when it is not being done here. */
  fractionOf(programmeId: string): number | null;
}

export function createAnalysisHandler(context: Context): AnalysisHandler {
  const fractions = new Map<string, number>();
  const tell = (programmeId: string, state: AnalysisView['state'], fraction: number) =>
    context.events.publish({ type: 'analysis', programmeId, state, fraction });
  return {
    kind: 'analysis',
    lane: 'gentle',
    // What is in a batch is wanted sooner than what is wrong with it.
    yieldsTo: ['look'],
    payload: object({}),
    fractionOf: (id) => fractions.get(id) ?? null,
    run: async (job, signal) => {
      const { subject: id } = job;
      const onFraction = (fraction: number) => {
        fractions.set(id, fraction);
        tell(id, 'running', fraction);
      };
      try {
        const row = await findProgramme(context, id);
        await job.write((query) => query(statements.BEGIN_ANALYSIS, [id]));
        await measureAll(context, job, row, onFraction, signal);
        return await conclude(context, row, () => tell(id, 'done', 1));
      } catch (error) {
        // What was measured is kept: the next attempt goes on there.
        if (signal.aborted) throw error;
        // Forgotten meanwhile; it is asked for again when it comes back.
        if (isRefusal(error) && error.code === 'not-found') return NOTHING_TO_DO;
        context.logger.warn({ programme: id, err: error }, 'an analysis failed');
        return failure(id, explain(error), () => tell(id, 'failed', 0));
      } finally {
        fractions.delete(id);
      }
    },
    abandon: (id) => failure(id, GIVEN_UP, () => tell(id, 'failed', 0)),
    released: (id, query) => query(statements.PAUSE_ANALYSIS, [id]),
  };
}

const NOTHING_TO_DO: Settlement = { kind: 'settled', write: () => Promise.resolve() };

const GIVEN_UP = {
  code: 'analysis-stopped',
  message: 'The server ended ten times during this analysis, so it was given up; the file may be damaged.',
};

function failure(id: string, problem: object, tell: () => void): Settlement {
  return {
    kind: 'settled',
    write: (query) => query(statements.FAIL_ANALYSIS, [id, JSON.stringify(problem)]),
    after: () => Promise.resolve(tell()),
  };
}

async function measureAll(
  context: Context,
  job: Job<object>,
  row: ProgrammeRow,
  onFraction: (fraction: number) => void,
  signal: AbortSignal,
): Promise<void> {
  const { facts } = row;
  const plan = planAnalysis(facts, await readClock(context, row));
  const done = await context.database.query<{ position: number }>(statements.COUNT_STRETCHES, [row.id]);
  const known = new Set(done.map(({ position }) => position));
  for (const [position, stretch] of plan.stretches.entries()) {
    if (known.has(position)) continue;
    signal.throwIfAborted();
    const before = stretch.startSeconds / facts.durationSeconds;
    const share = stretch.seconds / facts.durationSeconds;
    onFraction(before);
    const started = performance.now();
    const strips = stripFolder(context.config.dataFolder, row);
    // In one step, while the job is ours: the strip of a master that changed meanwhile shows nothing of what it was.
    const keep = (measured: MeasuredStretch, from: string) =>
      job.write(async (query) => {
        const values = [row.id, position, JSON.stringify(measured), (performance.now() - started) / 1000];
        await query(statements.SAVE_STRETCH, values);
        await keepPictures(from, strips, plan, stretch);
      });
    const options = { job, signal, keep };
    await measureStretch(context, row, plan, stretch, options, (part) => onFraction(before + part * share));
  }
}

interface Measuring {
  readonly job: Job<object>;
  readonly signal: AbortSignal;
  /** Is given the folder in which the small pictures are. */
  readonly keep: (measured: MeasuredStretch, from: string) => Promise<unknown>;
}

async function measureStretch(
  context: Context,
  row: ProgrammeRow,
  plan: AnalysisPlan,
  stretch: AnalysisStretch,
  { job, signal, keep }: Measuring,
  onPart: (part: number) => void,
): Promise<void> {
  // Not the programme's: one that was taken out of the queue may still be ending when its master is measured anew.
  const workingFolder = path.join(context.config.dataFolder, 'work', `analysis-${job.id}`);
  await rm(workingFolder, { recursive: true, force: true });
  await mkdir(workingFolder, { recursive: true });
  const limitMs = Math.max(LEAST_LIMIT_MS, Math.ceil(stretch.seconds * 1000 * LIMIT_TIMES_LENGTH));
  const limit = AbortSignal.timeout(limitMs);
  try {
    const measured = await withMaster(identityOf(row), (source) =>
      context.engine.analyse(requestFor(source, row, plan, stretch), {
        workingFolder,
        isGentle: job.lane === 'gentle',
        signal: AbortSignal.any([signal, limit]),
        onFrames: (frames) => onPart(Math.min(1, frames / Math.max(1, stretch.frameCount + stretch.leadFrames))),
      }),
    );
    await keep(measured, workingFolder);
  } catch (error) {
    if (limit.aborted && !signal.aborted) {
      throw new AnalysisTooSlow(stretch.startSeconds, Math.round(limitMs / 60_000), { cause: error });
    }
    throw error;
  } finally {
    await rm(workingFolder, { recursive: true, force: true });
  }
}

/** A minute of the programme took far longer than it should: given up, so that the others get their turn. */
class AnalysisTooSlow extends Error {
  constructor(atSeconds: number, minutes: number, options: ErrorOptions) {
    super(
      `The analysis was stopped: after ${minutes} minutes it had not got through the stretch that begins at ${atSeconds.toFixed(0)} s.`,
      options,
    );
  }
}

function requestFor(
  source: string,
  { facts }: ProgrammeRow,
  plan: AnalysisPlan,
  stretch: AnalysisStretch,
): AnalysisRequest {
  return { source, stretch, picture: pictureOf(facts, plan), sound: listenTo(facts) };
}

function pictureOf(facts: ProgrammeFacts, plan: AnalysisPlan): AnalysisRequest['picture'] {
  const { video } = facts;
  return (
    video && {
      streamIndex: video.index,
      frameRate: facts.frameRate,
      size: { width: facts.width, height: facts.height },
      colour: assumeColour(video.colour, facts.height),
      range: video.colour.range ?? 'limited',
      transparentBy: video.alpha ? video.codec : null,
      pictureInterval: plan.pictureInterval,
    }
  );
}

async function keepPictures(from: string, to: string, plan: AnalysisPlan, stretch: AnalysisStretch): Promise<void> {
  if (plan.pictureInterval === 0) return;
  await mkdir(to, { recursive: true });
  const first = Math.round(stretch.inFrame / plan.pictureInterval);
  for (const name of await readdir(from)) {
    const number = /^picture-(\d+)\.jpg$/.exec(name)?.[1];
    if (number) await rename(path.join(from, name), path.join(to, `${first + Number(number) - 1}.jpg`));
  }
}

/** Measurements become findings; then only those are kept. */
async function conclude(context: Context, row: ProgrammeRow, tell: () => void): Promise<Settlement> {
  const stretches = await context.database.query<{ measured: MeasuredStretch; cost_seconds: number }>(
    statements.LIST_STRETCHES,
    [row.id],
  );
  const { busyness, sound, ...conclusions } = concludeFindings(
    stretches.map(({ measured }) => measured),
    row.facts.frameRate,
    await readClock(context, row),
  );
  const cost = stretches.reduce((sum, stretch) => sum + stretch.cost_seconds, 0);
  return {
    kind: 'settled',
    write: async (query) => {
      const series = { busyness, sound } satisfies Series;
      await query(statements.FINISH_ANALYSIS, [row.id, JSON.stringify(conclusions), JSON.stringify(series), cost]);
      await query(statements.DROP_STRETCHES, [row.id]);
    },
    after: async () => {
      tell();
      // What it takes can be sounded better now, and where it opens is known.
      context.events.publish({ type: 'sounding', programmeId: row.id });
      const programme = summariseProgramme(await findProgramme(context, row.id));
      context.events.publish({ type: 'programme', programme });
    },
  };
}

function explain(error: unknown): { code: string; message: string; detail?: string } {
  if (error instanceof AnalysisTooSlow) return { code: 'analysis-stopped', message: error.message };
  if (isRefusal(error)) return { code: error.code, message: error.message };
  if (isEngineError(error) && ['memory-limit', 'engine-silent'].includes(error.code)) {
    return { code: error.code, message: error.message, detail: error.stderrTail };
  }
  if (isEngineError(error)) {
    const message =
      'The analysis came to a halt: the file cannot be decoded there. It may be damaged; export it again.';
    return { code: error.code, message, detail: error.stderrTail };
  }
  return { code: 'internal-error', message: 'The analysis failed unexpectedly; the log has the details.' };
}
