import { readFile } from 'node:fs/promises';
import path from 'node:path';
import type { AnalysisView, StripsView } from '../../contract/views.ts';
import { adviseOnProgramme } from '../../core/advice/adviseOnProgramme.ts';
import { STEP_SECONDS } from '../../core/analysis/measured.ts';
import { pictureIntervalOf } from '../../core/analysis/planAnalysis.ts';
import type { FrameClock } from '../../core/timing/frameClock.ts';
import * as statements from '../../store/statements/analyses.ts';
import * as programmes from '../../store/statements/programmes.ts';
import type { Context } from '../context.ts';
import { readClock } from '../programmes/frameTimes.ts';
import { findProgramme, unpackSpent } from '../programmes/programmes.ts';
import { Refusal } from '../refusal.ts';
import { PRIORITY } from '../jobs/job.ts';
import { enqueue, prefer } from '../jobs/queue.ts';
import type { Scheduler } from '../jobs/scheduler.ts';
import type { AnalysisHandler } from './analysisJob.ts';
import type { Stills } from '../stills/stills.ts';
import { readAnalysis, readFindings } from './readAnalysis.ts';
import { stripFolder } from './stripFolder.ts';

/** As wide as those that an analysis makes. */
const STRIP_WIDTH = 160;

/** Asks for a programme's analysis; one that is there or underway stays as it is. The caller wakes the scheduler. */
export async function askAnalysis({ database, now }: Context, programmeId: string): Promise<void> {
  await database.transaction(async (query) => {
    await query(statements.ASK_ANALYSIS, [programmeId, now()]);
    if ((await query(statements.IS_ANALYSIS_OPEN, [programmeId])).length === 0) return;
    await enqueue(query, { kind: 'analysis', subject: programmeId, priority: PRIORITY.analysis });
  });
}

/** Asks for every programme that was never analysed. */
export async function askMissingAnalyses(context: Context): Promise<void> {
  for (const { id } of await context.database.query<{ id: string }>(statements.PROGRAMMES_NOT_ANALYSED)) {
    await askAnalysis(context, id);
  }
}

/** Starts a failed analysis again, going on where it stopped. */
export async function retryAnalysis(application: Analysing, programmeId: string): Promise<AnalysisView> {
  await application.context.database.query(statements.RETRY_ANALYSIS, [programmeId]);
  return viewAnalysis(application, programmeId);
}

/** What analyses are seen to by. */
interface Analysing {
  readonly context: Context;
  readonly scheduler: Scheduler;
  readonly analyses: Pick<AnalysisHandler, 'fractionOf'>;
}

/** What is known of a programme so far; what facts alone tell is there at once. Looking puts it first in the line. */
export async function viewAnalysis(
  { context, scheduler, analyses }: Analysing,
  programmeId: string,
): Promise<AnalysisView> {
  const { facts, state } = await findProgramme(context, programmeId);
  if (state === 'ready') await askAnalysis(context, programmeId);
  const row = await readAnalysis(context, programmeId);
  if (row?.state === 'waiting') {
    await prefer(context.database.query, 'analysis', programmeId);
    scheduler.wake();
  }
  const findings = await readFindings(context, programmeId);
  const clock = await readClock(context, { id: programmeId, facts });
  const frameAt = (seconds: number) => (facts.video ? clock.frameAt(seconds) : null);
  return {
    state: row?.state ?? 'waiting',
    ...(row?.problem ? { problem: row.problem } : {}),
    fraction: row?.state === 'done' ? 1 : (analyses.fractionOf(programmeId) ?? 0),
    costSeconds: row?.state === 'done' ? row.cost_seconds : null,
    scan: findings?.scan ?? null,
    bars: findings?.bars ?? null,
    opaque: findings?.opaque ?? null,
    frameRateMode: facts.video ? (facts.video.constantRate ? 'constant' : 'variable') : null,
    black: findings && facts.video ? findings.black : null,
    frozen: findings && facts.video ? findings.frozen : null,
    silence: findings?.sound
      ? findings.silence.map(({ startSeconds, endSeconds }) => ({
          startSeconds,
          endSeconds,
          inFrame: frameAt(startSeconds),
          outFrame: facts.video ? lastSilent(clock, startSeconds, endSeconds) : null,
        }))
      : null,
    sceneChanges: findings && facts.video ? findings.sceneChanges : null,
    loudness: findings?.loudness ?? null,
    channels: findings?.channels ?? null,
    damaged: findings && facts.video ? findings.damaged : null,
    busyness: findings?.busyness ?? null,
    advisories: adviseOnProgramme({ facts, clock, findings }),
  };
}

/** The frame in which sound comes back is no silent one. */
function lastSilent(clock: FrameClock, startSeconds: number, endSeconds: number): number {
  const frame = clock.frameAt(endSeconds);
  const isSilent = clock.secondsOf(frame + 1) <= endSeconds;
  return Math.max(clock.frameAt(startSeconds), isSilent ? frame : frame - 1);
}

/** Everything that is drawn along a programme's length. */
export async function viewStrips(context: Context, programmeId: string): Promise<StripsView> {
  const { facts } = await findProgramme(context, programmeId);
  const [row] = await context.database.query<{ spent: Uint8Array | null }>(programmes.READ_SPENT, [programmeId]);
  const findings = await readFindings(context, programmeId);
  return {
    stepSeconds: STEP_SECONDS,
    spent: row?.spent ? unpackSpent(row.spent) : [],
    busyness: findings?.busyness?.bits ?? null,
    sound: findings?.sound ?? null,
    pictureInterval: pictureIntervalOf(facts),
  };
}

/** One of the small pictures along the length, and its kind. */
export async function readStripPicture(
  { context, stills }: { readonly context: Context; readonly stills: Stills },
  programmeId: string,
  number: number,
  signal: AbortSignal,
): Promise<{ readonly bytes: Buffer; readonly mime: string }> {
  const programme = await findProgramme(context, programmeId);
  const file = path.join(stripFolder(context.config.dataFolder, programme), `${number}.jpg`);
  try {
    return { bytes: await readFile(/* turbopackIgnore: true */ file), mime: 'image/jpeg' };
  } catch (error) {
    const isDone = (await readAnalysis(context, programmeId))?.state === 'done';
    if (!isDone) throw new Refusal('not-found', 'This small picture is not made yet.', { cause: error });
    // Another server made the analysis, and has the pictures.
    const frame = number * pictureIntervalOf(programme.facts);
    return { bytes: await stills.ofProgramme(programmeId, frame, STRIP_WIDTH, signal), mime: 'image/png' };
  }
}
