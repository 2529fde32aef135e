import { boolean, object, string, type InferType } from 'yup';
import {
  isNotSounded,
  soundingRequestSchema,
  type SoundingRequest,
  type SoundingStanding,
} from '../../contract/sounding.ts';
import { namePreparation } from '../../core/geometry/preparation.ts';
import {
  isWorthACloserLook,
  nextToSound,
  ROUGH_ERROR,
  soundedInPart,
  type Sounding,
} from '../../core/sounding/sounding.ts';
import { chooseSoundedSpans } from '../../core/sounding/soundedSpans.ts';
import { toNumber } from '../../core/timing/rational.ts';
import { isRated, RATED } from '../../core/video/codecs.ts';
import type { ProgrammeFacts } from '../../core/programme/facts.ts';
import type { Query, SqlValue } from '../../store/database.ts';
import * as jobs from '../../store/statements/jobs.ts';
import * as statements from '../../store/statements/programmes.ts';
import { readAnalysis } from '../analysis/readAnalysis.ts';
import type { Context } from '../context.ts';
import { PRIORITY, type JobHandler, type Settlement } from '../jobs/job.ts';
import { enqueue, findStanding } from '../jobs/queue.ts';
import type { Scheduler } from '../jobs/scheduler.ts';
import { findProgramme, type ProgrammeRow } from '../programmes/programmes.ts';
import { isRefusal, Refusal } from '../refusal.ts';
import { measureSounding, spanOf, type MeasuredSounding } from './measureSounding.ts';

/** A sounding as it is kept. */
interface SoundingRow extends MeasuredSounding, Record<string, unknown> {
  /** That the rest of it could not be measured. */
  readonly has_failed: boolean;
}

/** Measurements that wait at most; whoever drags a portion about wants the last, not all that lie on the way. */
const MOST_WAITING = 6;

/** A sounding made for a fill alone looks at one frame of so many at most: it takes each at several qualities. A closer look takes one. */
const WORTHWHILE = 4;
const WORTHWHILE_ONCE = 2;

/** A measurement that takes longer than this is given up, so that the others get their turn. */
const LIMIT_MS = 10 * 60_000;

/** However little was seen, something is left. */
const MOST_BELOW = 0.9;

/** A sounding that was measured, or null. */
export async function findSounding(
  context: Context,
  programmeId: string,
  facts: ProgrammeFacts,
  request: SoundingRequest,
): Promise<Sounding | null> {
  const row = await findRow(context, programmeId, facts, request);
  return row && soundingFrom(row, request);
}

async function findRow(
  context: Context,
  programmeId: string,
  facts: ProgrammeFacts,
  request: SoundingRequest,
): Promise<SoundingRow | null> {
  const values = whereOf(programmeId, facts, request);
  return (await context.database.query<SoundingRow>(statements.FIND_SOUNDING, values))[0] ?? null;
}

function soundingFrom(row: SoundingRow, request: SoundingRequest): Sounding {
  const { points, error, is_rough: isRough } = row;
  const { codec, width, height } = request;
  const sounding = { codec, size: { width, height }, points, ...(isRough ? { error: ROUGH_ERROR, isRough } : {}) };
  if (isRated(codec) && missingOf(row, request).length > 0) {
    const part = soundedInPart(sounding, RATED[codec].quality);
    return row.has_failed ? { ...part, isEnd: true } : part;
  }
  if (isRough) return sounding;
  return error === null ? sounding : { ...sounding, error: { below: Math.min(MOST_BELOW, error), above: error } };
}

/**
 * The qualities that are measured next; a codec for masters has none.
 *
 * @param around - null for all that are missing.
 */
function missingOf(
  row: MeasuredSounding | null,
  { codec }: SoundingRequest,
  around: number | null = null,
): readonly number[] {
  return isRated(codec)
    ? nextToSound(RATED[codec].quality, row?.points.map(({ quality }) => quality) ?? [], around)
    : [];
}

/** What a sounding's job is told. */
const jobSchema = object({
  programmeId: string().required(),
  request: soundingRequestSchema,
  /** What is asked for first is all that is wanted. */
  isShort: boolean().default(false),
}).required();

/** The sounding, or how it stands; measures nothing. */
export async function viewSounding(
  context: Context,
  programmeId: string,
  request: SoundingRequest,
): Promise<Sounding | SoundingStanding> {
  const { known, subject } = await look(context, programmeId, request);
  return known ?? standingOf(context, subject);
}

/**
 * Measures now what a size is to be filled by, unless it is known: a quality begun far off costs whole encodes, and this
 * a part of one.
 */
export async function soundBefore(
  context: Context,
  programmeId: string,
  request: SoundingRequest,
  signal: AbortSignal,
): Promise<void> {
  const { programme, isWanted } = await look(context, programmeId, request, true);
  if (!isWanted) return;
  // Of a short clip it would take longer than the encodes it saves.
  if (sharesSounded(programme.facts, request) > 1 / WORTHWHILE) return;
  const { values } = await measureNext(context, programme, request, null, signal);
  await context.database.query(statements.SAVE_SOUNDING, values);
  context.events.publish({ type: 'sounding', programmeId });
}

/**
 * Looks closer at the quality that should come to a size, where the sounding cannot tell what lies between two of its points.
 *
 * @returns Whether more is known now.
 */
export async function soundCloser(
  context: Context,
  programmeId: string,
  request: SoundingRequest,
  quality: number,
  signal: AbortSignal,
): Promise<boolean> {
  const { programme, known } = await look(context, programmeId, request);
  const { codec } = request;
  if (!known || known.isRough || !isRated(codec)) return false;
  if (!isWorthACloserLook(known, RATED[codec].quality, quality)) return false;
  if (sharesSounded(programme.facts, request) > 1 / WORTHWHILE_ONCE) return false;
  const closer = await measureSounding(context, programme, request, [quality], signal);
  const points = [...known.points, ...closer.points].toSorted((a, b) => a.quality - b.quality);
  const values = savedAs(context, programme, request, { points, error: null, is_rough: false });
  await context.database.query(statements.SAVE_SOUNDING, values);
  context.events.publish({ type: 'sounding', programmeId });
  return true;
}

/** What a sounding looks at of what it is about. */
function sharesSounded(facts: ProgrammeFacts, request: SoundingRequest): number {
  const span = spanOf(facts, request);
  const stretches = chooseSoundedSpans(span, toNumber(facts.frameRate), null);
  return stretches.reduce((sum, { frameCount }) => sum + frameCount, 0) / span.frameCount;
}

/** Has it measured, the one asked for last first; an event tells when it is there, or that it could not be. */
export async function askSounding(
  context: Context,
  scheduler: Scheduler,
  programmeId: string,
  request: SoundingRequest,
): Promise<Sounding | SoundingStanding> {
  const { known, subject, isWanted } = await look(context, programmeId, request, true);
  if (known && !isWanted) return known;
  await context.database.transaction(async (query) => {
    const payload = { programmeId, request };
    await enqueue(query, { kind: 'sounding', subject, payload, priority: PRIORITY.waitedFor, isNewestFirst: true });
    await query(jobs.TRIM_JOBS, ['sounding', MOST_WAITING, PRIORITY.waitedFor]);
  });
  scheduler.wake();
  return known ?? standingOf(context, subject);
}

/**
 * Has it measured after what someone waits for, as one of many; the caller wakes the scheduler.
 *
 * @param isShort - Only the qualities around the one it is asked for.
 */
export async function askSoundingLater(
  context: Context,
  programmeId: string,
  request: SoundingRequest,
  isShort: boolean,
): Promise<void> {
  const { subject, isWanted } = await look(context, programmeId, request, true);
  if (!isWanted) return;
  const payload = { programmeId, request, isShort };
  await enqueue(context.database.query, { kind: 'sounding', subject, payload, priority: PRIORITY.look });
}

async function look(context: Context, programmeId: string, request: SoundingRequest, isAsked = false) {
  const programme = await findProgramme(context, programmeId);
  const { facts } = programme;
  requireSensible(facts, request);
  const values = whereOf(programmeId, facts, request);
  if (isAsked) await context.database.query(statements.DROP_SOUNDING_PROBLEM, values);
  const row = await findRow(context, programmeId, facts, request);
  const known = row && soundingFrom(row, request);
  const [failed] = known ? [] : await context.database.query<FailedRow>(statements.FIND_SOUNDING_PROBLEM, values);
  if (failed) throw new Refusal('sounding-failed', failed.problem.message);
  const isWanted =
    !row || (!row.has_failed && (missingOf(row, request).length > 0 || (await isMadeAgain(context, row, programmeId))));
  return { programme, known, subject: JSON.stringify(values), isWanted };
}

/** A rough one, as soon as it is known how busy the programme is where. */
async function isMadeAgain(context: Context, row: MeasuredSounding, programmeId: string): Promise<boolean> {
  return row.is_rough && Boolean((await readAnalysis(context, programmeId))?.findings);
}

interface FailedRow extends Record<string, unknown> {
  readonly problem: { readonly message: string };
}

async function standingOf({ database }: Context, subject: string): Promise<SoundingStanding> {
  const found = await findStanding(database.query, 'sounding', subject);
  if (!found) return { state: 'not-measured', ahead: 0 };
  return found.isUnderway ? { state: 'measuring', ahead: 0 } : { state: 'waiting', ahead: found.ahead };
}

/** Measures soundings. */
export function createSoundingHandler(context: Context): JobHandler<InferType<typeof jobSchema>> {
  const tellOf = (programmeId: string) => () => {
    context.events.publish({ type: 'sounding', programmeId });
    return Promise.resolve();
  };
  const settled = (programmeId: string, write: (query: Query) => Promise<unknown>): Settlement => ({
    kind: 'settled',
    write,
    after: tellOf(programmeId),
  });
  return {
    kind: 'sounding',
    lane: 'waited',
    yieldsTo: [],
    payload: jobSchema,
    run: async ({ payload: { programmeId, request, isShort }, subject }, signal) => {
      const limit = AbortSignal.timeout(LIMIT_MS);
      try {
        const programme = await findProgramme(context, programmeId);
        const usual = isRated(request.codec) ? RATED[request.codec].quality.usual : null;
        const around = request.around ?? usual;
        const within = AbortSignal.any([signal, limit]);
        const { values, isPart } = await measureNext(context, programme, request, around, within);
        const write = (query: Query) => query(statements.SAVE_SOUNDING, values);
        if (!isPart || isShort) return settled(programmeId, write);
        // What was asked for since goes before the rest of it.
        return { kind: 'again', checkpoint: {}, write, after: tellOf(programmeId) };
      } catch (error) {
        if (signal.aborted) throw error;
        context.logger.warn({ programmeId, err: error }, 'a sounding failed');
        const problem = JSON.stringify({ message: explain(error).message });
        const values = [...(JSON.parse(subject) as SqlValue[]), problem, context.now()];
        return settled(programmeId, (query) => query(statements.FAIL_SOUNDING, values));
      }
    },
    abandon: (subject) => {
      const values = JSON.parse(subject) as SqlValue[];
      const problem = JSON.stringify({ message: explain(null).message });
      const write = (query: Query) => query(statements.FAIL_SOUNDING, [...values, problem, context.now()]);
      return settled(String(values[0]), write);
    },
  };
}

/** What tells one sounding from another. */
function whereOf(programmeId: string, facts: ProgrammeFacts, request: SoundingRequest): SqlValue[] {
  const { codec, width, height, frameRate, stored, alpha } = request;
  const { inFrame, frameCount } = spanOf(facts, request);
  const rate = frameRate ? ` at ${frameRate.num}/${frameRate.den}` : '';
  const treatment = `${namePreparation(request)}${rate}${stored ? ` as ${stored.flavour} ${stored.format}` : ''}${alpha ? ' with transparency' : ''}`;
  return [programmeId, codec, width, height, treatment, inFrame, frameCount];
}

/** @throws Refusal for what no order could be about. */
function requireSensible(facts: ProgrammeFacts, request: SoundingRequest): void {
  const { width, height, portion } = request;
  if (!facts.video) throw new Refusal('no-picture', 'This programme has sound only.');
  if (isNotSounded(facts, facts.video, request)) {
    throw new Refusal(
      'frame-too-large',
      `${width} × ${height} is more than four times as wide or high as this programme’s picture; nothing larger is measured.`,
      { field: 'width' },
    );
  }
  if (portion && (portion.inFrame > portion.outFrame || portion.outFrame >= facts.frameCount)) {
    throw new Refusal(
      'portion-outside',
      `The portion runs from frame ${portion.inFrame} to ${portion.outFrame}; this programme has frames 0 to ${facts.frameCount - 1}.`,
      { field: 'portion' },
    );
  }
}

function explain(error: unknown): Refusal {
  if (isRefusal(error)) return error;
  const message = 'What this portion would take could not be measured; the master may be damaged there.';
  return new Refusal('sounding-failed', message, { cause: error });
}

/**
 * Measures the first of it, or what is missing, and tells how it is saved with what was known before.
 *
 * @param around - The quality that is looked at first; null for all of it at once.
 * @returns Also whether more is missing then.
 */
async function measureNext(
  context: Context,
  programme: ProgrammeRow,
  request: SoundingRequest,
  around: number | null,
  signal: AbortSignal,
): Promise<{ readonly values: SqlValue[]; readonly isPart: boolean }> {
  const { id, facts } = programme;
  const row = await findRow(context, id, facts, request);
  const before = row && !(await isMadeAgain(context, row, id)) ? row : null;
  const missing = missingOf(before, request, around);
  // While it waited a size to fill may have had all of it measured.
  const isThere = before !== null && missing.length === 0;
  const { points, ...made } = isThere
    ? { ...before, points: [] }
    : await measureSounding(context, programme, request, missing, signal);
  const all = [...(before?.points ?? []), ...points].toSorted((a, b) => a.quality - b.quality);
  const measured = { ...made, points: all };
  return {
    values: savedAs(context, programme, request, measured),
    isPart: missingOf(measured, request).length > 0,
  };
}

function savedAs(
  context: Context,
  { id, facts }: ProgrammeRow,
  request: SoundingRequest,
  { points, error, is_rough }: MeasuredSounding,
): SqlValue[] {
  return [...whereOf(id, facts, request), JSON.stringify(points), error, is_rough, context.now()];
}
