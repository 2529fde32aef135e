import { mkdir, readdir, rename, rm } from 'node:fs/promises';
import path from 'node:path';
import { concludeFindings } from '../../core/analysis/conclude.ts';
import type { MeasuredStretch } from '../../core/analysis/measured.ts';
import { planAnalysis, type AnalysisPlan, type AnalysisStretch } from '../../core/analysis/planAnalysis.ts';
import { assumeColour } from '../../core/programme/colour.ts';
import type { ProgrammeFacts } from '../../core/programme/facts.ts';
import type { AnalysisRequest } from '../../engine/arguments/analyse.ts';
import { isEngineError } from '../../engine/engineError.ts';
import * as statements from '../../store/statements/analyses.ts';
import type { Context } from '../context.ts';
import { identityOf, withMaster } from '../programmes/masters.ts';
import { readClock } from '../programmes/frameTimes.ts';
import { findProgramme, viewProgramme, type ProgrammeRow } from '../programmes/programmes.ts';
import { isRefusal } from '../refusal.ts';
import { stripFolder } from './stripFolder.ts';

/** A stretch may take this long, and this many times its own length, before it is given up. */
const LEAST_LIMIT_MS = 3 * 60_000;
const LIMIT_TIMES_LENGTH = 40;

/** Analyses programmes one after another in the background, stretch by stretch, at the lowest priority. */
export interface AnalysisDesk {
  /** Looks for work now; a programme that someone looks at comes first. */
  wake(preferred?: string): void;
  /** How far the analysis of a programme is, from 0 to 1; null when it is not the one being analysed. */
  fractionOf(programmeId: string): number | null;
  stop(): Promise<void>;
}

/**
 * @param mayWork - False while something else should have the machine to itself; whoever makes it true again wakes the
 *   desk.
 */
export function createAnalysisDesk(context: Context, mayWork: () => boolean): AnalysisDesk {
  const stopping = new AbortController();
  let current: { id: string; fraction: number } | null = null;
  let preferred: string | null = null;
  let loop: Promise<void> | null = null;

  const next = async (): Promise<string | null> => {
    const [row] = await context.database.query<{ programme_id: string }>(statements.NEXT_ANALYSIS, [preferred]);
    return row?.programme_id ?? null;
  };
  const work = async () => {
    const isOpen = () => mayWork() && !stopping.signal.aborted;
    for (let id = await next(); id !== null && isOpen(); id = await next()) {
      current = { id, fraction: 0 };
      const onFraction = (fraction: number) => {
        current = { id, fraction };
        context.events.publish({ type: 'analysis', programmeId: id, state: 'running', fraction });
      };
      await analyseOne(context, id, onFraction, stopping.signal);
      current = null;
    }
  };
  return {
    wake: (wanted) => {
      preferred = wanted ?? preferred;
      if (stopping.signal.aborted) return;
      loop ??= work()
        .catch((error: unknown) => {
          if (!stopping.signal.aborted) context.logger.error({ err: error }, 'the analysis tripped');
        })
        .finally(() => {
          loop = null;
          current = null;
        });
    },
    fractionOf: (id) => (current?.id === id ? current.fraction : null),
    stop: async () => {
      stopping.abort();
      await loop;
    },
  };
}

async function analyseOne(
  context: Context,
  id: string,
  onFraction: (fraction: number) => void,
  signal: AbortSignal,
): Promise<void> {
  const logger = context.logger.child({ programme: id });
  try {
    const row = await findProgramme(context, id);
    await context.database.query(statements.BEGIN_ANALYSIS, [id]);
    await measureAll(context, row, onFraction, signal);
    await conclude(context, row);
    context.events.publish({ type: 'analysis', programmeId: id, state: 'done', fraction: 1 });
    // Where it opens is known now.
    context.events.publish({ type: 'programme', programme: viewProgramme(await findProgramme(context, id)) });
    logger.info('analysed');
  } catch (error) {
    // What was measured is kept: the next start goes on there.
    if (signal.aborted) return;
    if (isRefusal(error) && error.code === 'not-found') return;
    const problem = explain(error);
    logger.warn({ err: error }, 'an analysis failed');
    await context.database.query(statements.FAIL_ANALYSIS, [id, JSON.stringify(problem)]);
    context.events.publish({ type: 'analysis', programmeId: id, state: 'failed', fraction: 0 });
  }
}

async function measureAll(
  context: Context,
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
    const measured = await measureStretch(context, row, plan, stretch, signal, (part) =>
      onFraction(before + part * share),
    );
    const values = [row.id, position, JSON.stringify(measured), (performance.now() - started) / 1000];
    await context.database.query(statements.SAVE_STRETCH, values);
  }
}

async function measureStretch(
  context: Context,
  row: ProgrammeRow,
  plan: AnalysisPlan,
  stretch: AnalysisStretch,
  signal: AbortSignal,
  onPart: (part: number) => void,
): Promise<MeasuredStretch> {
  const workingFolder = path.join(context.config.dataFolder, 'work', `analysis-${row.id}`);
  await rm(workingFolder, { recursive: true, force: true });
  await mkdir(workingFolder, { recursive: true });
  const limitMs = Math.max(LEAST_LIMIT_MS, stretch.seconds * 1000 * LIMIT_TIMES_LENGTH);
  const limit = AbortSignal.timeout(limitMs);
  try {
    const measured = await withMaster(identityOf(row), (source) =>
      context.engine.analyse(requestFor(source, row, plan, stretch), {
        workingFolder,
        signal: AbortSignal.any([signal, limit]),
        onFrames: (frames) => onPart(Math.min(1, frames / Math.max(1, stretch.frameCount + stretch.leadFrames))),
      }),
    );
    await keepPictures(workingFolder, stripFolder(context.config.dataFolder, row.id), plan, stretch);
    return measured;
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
  const [track] = facts.audio;
  return { source, stretch, picture: pictureOf(facts, plan), sound: track ? soundOf(facts, track) : null };
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
      pictureInterval: plan.pictureInterval,
    }
  );
}

function soundOf(facts: ProgrammeFacts, track: ProgrammeFacts['audio'][number]): AnalysisRequest['sound'] {
  const startSeconds = facts.video?.startSeconds ?? track.startSeconds;
  return { streamIndex: track.index, startSeconds, channels: track.channels };
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
async function conclude(context: Context, row: ProgrammeRow): Promise<void> {
  const stretches = await context.database.query<{ measured: MeasuredStretch; cost_seconds: number }>(
    statements.LIST_STRETCHES,
    [row.id],
  );
  const findings = concludeFindings(
    stretches.map(({ measured }) => measured),
    row.facts.frameRate,
    await readClock(context, row),
  );
  const cost = stretches.reduce((sum, stretch) => sum + stretch.cost_seconds, 0);
  await context.database.transaction(async (query) => {
    await query(statements.FINISH_ANALYSIS, [row.id, JSON.stringify(findings), cost]);
    await query(statements.DROP_STRETCHES, [row.id]);
  });
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
