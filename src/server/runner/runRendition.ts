import { mkdir, readdir, rm, stat } from 'node:fs/promises';
import path from 'node:path';
import type { Check, FillView, Problem, QualityView } from '../../contract/views.ts';
import { lookCloser } from '../../core/quality/closerLook.ts';
import { padOf, referenceSampling } from '../../core/picture/chain.ts';
import { summariseQuality, type FrameQuality } from '../../core/quality/frameQuality.ts';
import type { PairMeasures } from '../../core/quality/pairReader.ts';
import { comparePeak } from '../../engine/arguments/compare.ts';
import { isEncoded, pictureOf, type PicturePath } from '../../core/plan/encodePlan.ts';
import type { PictureGroup } from '../../engine/parsing/groups.ts';
import { keepMeasured, settingsKey } from '../trials/measured.ts';
import { SCALER } from '../../engine/filters/scale.ts';
import type { Hold } from '../../engine/process/hold.ts';
import { isEngineError } from '../../engine/engineError.ts';
import type { Context } from '../context.ts';
import { placeDrawn, readDrawn } from '../drawn/readDrawn.ts';
import { writeLabels } from '../captions/readCaptions.ts';
import { readClock } from '../programmes/frameTimes.ts';
import { withMaster } from '../programmes/masters.ts';
import { isRefusal } from '../refusal.ts';
import { publishFile, removeTemporary, roomFor, temporaryPath, withdrawUnrecorded } from '../renditions/destination.ts';
import type { RenditionRow } from '../renditions/renditionRow.ts';
import { checkResult } from './checkResult.ts';
import { encodeRendition } from './encodeRendition.ts';
import { requireRoom } from '../rooms.ts';
import { RenditionFailure } from './failure.ts';
import { openJournal, type Journal } from './journal.ts';
import type { StageReporter } from './stageReporter.ts';

/** What is recorded of an attempt that ended by itself. */
export interface Outcome {
  readonly state: 'done' | 'failed';
  readonly path: string;
  readonly bytes: number | null;
  readonly checks: readonly Check[];
  readonly quality: QualityView | null;
  readonly frames: readonly FrameQuality[];
  readonly fill: FillView | null;
  readonly encodeSeconds: number | null;
  readonly checkSeconds: number | null;
  /** Of the time both took, the share in which other work went on beside it. */
  readonly besideShare: number | null;
  readonly hasFile: boolean;
  readonly problem: Problem | null;
}

/**
 * One attempt at a rendition, from what earlier ones finished to a checked file under its final name. Everything made on
 * the way stays until the caller has recorded the outcome.
 *
 * @param runner - Who carries it out; names its temporary files.
 * @throws EngineError `stopped` when the signal fired; everything else becomes a failed outcome.
 */
export async function runRendition(
  context: Context,
  row: RenditionRow,
  runner: string,
  watched: Watched,
  signal: AbortSignal,
): Promise<Outcome> {
  const workingFolder = workingFolderOf(context, row.id);
  try {
    await mkdir(workingFolder, { recursive: true });
    await requireRoom(roomFor(context, path.dirname(row.path), row.plan));
    await withdrawUnrecorded(row.path, row.id);
    const journal = await openJournal(path.join(workingFolder, JOURNAL), keyOf(row));
    await keepOnly(workingFolder, [...journal.files(), path.join(workingFolder, JOURNAL)]);
    await removeTemporary(row.path, row.id, journal.files());
    return await attempt(context, row, { ...watched, runner, signal, workingFolder, journal });
  } catch (error) {
    if (signal.aborted) throw error;
    return failWith(context, row, error);
  }
}

/** What is recorded of a rendition that came to nothing. */
export function failWith(context: Context, row: RenditionRow, error: unknown): Outcome {
  const problem = explain(error);
  if (problem.code === 'internal-error') context.logger.error({ rendition: row.id, err: error }, 'an attempt failed');
  const details = error instanceof RenditionFailure ? error.details : {};
  return { ...NOTHING, state: 'failed', path: row.path, problem, ...details };
}

const JOURNAL = 'journal.json';

/** Where a rendition's statistics, sound and journal lie until it has ended. */
function workingFolderOf(context: Context, renditionId: string): string {
  return path.join(context.config.dataFolder, 'work', renditionId);
}

/** Throws away everything that was made on the way to a rendition; a result that was given its name stays. */
export async function clearUp(context: Context, { id, path: file }: Pick<RenditionRow, 'id' | 'path'>): Promise<void> {
  await rm(workingFolderOf(context, id), { recursive: true, force: true });
  await removeTemporary(file, id);
}

/** What an earlier attempt made is of use only for the same order on the same master by the same engine. */
function keyOf({ plan, source_fingerprint, source_path }: RenditionRow): string {
  const { span, streams, container, labels, budget } = plan;
  return JSON.stringify([span, streams, container, labels, budget.cap, source_fingerprint, source_path]);
}

/** What was being written when an attempt was cut off is of no use to the next. */
async function keepOnly(folder: string, kept: readonly string[]): Promise<void> {
  for (const name of await readdir(folder)) {
    const file = path.join(folder, name);
    if (!kept.includes(file)) await rm(file, { recursive: true, force: true });
  }
}

const NOTHING = {
  bytes: null,
  checks: [],
  quality: null,
  frames: [],
  fill: null,
  encodeSeconds: null,
  checkSeconds: null,
  besideShare: null,
  hasFile: false,
  problem: null,
} as const;

/** How an attempt is seen and held. */
export interface Watched {
  readonly reporter: StageReporter;
  readonly hold: Hold;
  /** In milliseconds, standing still while it is held. */
  readonly now: () => number;
  /** Seconds in which other work went on beside it. */
  readonly besideSeconds: () => number;
}

interface Attempt extends Watched {
  readonly runner: string;
  readonly signal: AbortSignal;
  readonly workingFolder: string;
  readonly journal: Journal;
}

async function attempt(context: Context, row: RenditionRow, given: Attempt): Promise<Outcome> {
  const master = {
    path: row.source_path,
    bytes: row.source_facts.bytes,
    modifiedAt: row.source_modified_at,
    fingerprint: row.source_fingerprint,
  };
  return withMaster(master, (source) => work(context, row, source, given));
}

async function work(
  context: Context,
  row: RenditionRow,
  source: string,
  { runner, reporter, hold, now, besideSeconds, signal, workingFolder, journal }: Attempt,
): Promise<Outcome> {
  const { plan } = row;
  const picture = pictureOf(plan);
  const clock = await readClock(context, { id: row.programme_id, facts: row.source_facts });
  const started = now();
  const besideBefore = besideSeconds();
  const master = { facts: row.source_facts, path: row.source_path, source };
  await placeDrawn(await readDrawn(context.engine, context.config, master, plan, signal), workingFolder);
  const labels = await writeLabels(context.engine, master, plan, workingFolder, signal);
  const encoded = await encodeRendition({
    engine: context.engine,
    plan,
    source,
    labels,
    facts: row.source_facts,
    clock,
    workingFolder,
    temporary: (part) => temporaryPath(row.path, row.id, runner, part),
    journal,
    signal,
    hold,
    enter: reporter.enter,
    onMeasured: (quality, groups, frames) => learnGroups(context, row, { quality, groups, frames }),
  });
  const encodedAt = now();
  const [frames = []] = picture
    ? await context.engine.compare(source, [{ picture, file: encoded.file }], {
        ...{ workingFolder, signal, hold },
        onProgress: reporter.enter('checking', picture.out.frameCount),
      })
    : [];
  const checks = await checkResult({
    engine: context.engine,
    plan,
    facts: row.source_facts,
    clock,
    source,
    result: encoded.file,
    decodedFrames: picture ? frames.length : null,
    workingFolder,
    brief: row.brief && { brief: row.brief, name: path.basename(row.path) },
    signal,
  });
  signal.throwIfAborted();
  const quality = picture && summarise(picture, frames);
  const checkedAt = now();
  const common = {
    bytes: (await stat(encoded.file)).size,
    checks,
    quality,
    frames,
    fill: encoded.fill,
    encodeSeconds: (encodedAt - started) / 1000,
    checkSeconds: (checkedAt - encodedAt) / 1000,
    besideShare: Math.min(1, ((besideSeconds() - besideBefore) * 1000) / Math.max(1, checkedAt - started)),
  };
  // What a receiver asks for and does not get is told; the file is what was ordered all the same.
  const failed = checks.filter((check) => !check.ok && !check.ofBrief);
  if (failed.length === 0) {
    return { ...common, state: 'done', path: await publishFile(encoded.file, row.path), hasFile: true, problem: null };
  }
  const problem = explainChecks(failed);
  if (!row.keep_failed) return { ...common, state: 'failed', path: row.path, hasFile: false, problem };
  return {
    ...common,
    state: 'failed',
    path: await publishFile(encoded.file, failedName(row.path)),
    hasFile: true,
    problem,
  };
}

function summarise(picture: PicturePath, frames: readonly PairMeasures[]): QualityView | null {
  if (frames.length === 0) return null;
  const { comparedAt, chain, from } = picture;
  const peak = comparePeak(picture);
  const closer = lookCloser(frames, peak, referenceSampling(chain, from.sampling).matrix);
  return {
    ...summariseQuality(frames, peak),
    scaler: `${SCALER}, at ${comparedAt.width} × ${comparedAt.height}${padOf(chain) ? ', without what is beside the picture' : ''}`,
    ...(closer ? { closer } : {}),
  };
}

function explainChecks(failed: readonly Check[]): Problem {
  const list = failed.map((check) => `${check.name.toLowerCase()}: expected ${check.expected}, found ${check.found}`);
  return { code: 'check-failed', message: `The file was encoded but did not pass: ${list.join('; ')}.` };
}

/** A file that failed its checks never carries the name of a good one. */
function failedName(file: string): string {
  const { dir, name, ext } = path.parse(file);
  return path.join(dir, `${name} (not verified)${ext}`);
}

function explain(error: unknown): Problem {
  if (error instanceof RenditionFailure) return error.problem;
  if (isRefusal(error)) return { code: error.code, message: error.message };
  if (isEngineError(error)) {
    return { code: error.code, message: error.message, ...(error.stderrTail ? { detail: error.stderrTail } : {}) };
  }
  const code = (error as NodeJS.ErrnoException).code;
  if (code === 'ENOSPC') {
    return { code: 'destination-full', message: 'The disk is full; free some space and run this again.' };
  }
  if (code === 'ENOENT' || code === 'ENOTDIR' || code === 'EEXIST') {
    return {
      code: 'destination-gone',
      message: 'The output folder is no longer there, or its disk was taken away; put it back and run this again.',
    };
  }
  if (code === 'EROFS' || code === 'EACCES' || code === 'EPERM') {
    return {
      code: 'destination-read-only',
      message: 'The output folder cannot be written to; change its permissions or choose another.',
    };
  }
  return { code: 'internal-error', message: 'Something unexpected went wrong; the log has the details. Run it again.' };
}

interface MeasuredWhole {
  readonly quality: number;
  readonly groups: readonly PictureGroup[];
  readonly frames: readonly FrameQuality[];
}

/** What a fill measures on its way is what trials would: it is kept where they look. */
async function learnGroups(
  context: Context,
  row: RenditionRow,
  { quality, groups, frames }: MeasuredWhole,
): Promise<void> {
  const picture = pictureOf(row.plan);
  if (!picture || !isEncoded(picture) || row.source_fingerprint === null) return;
  let first = 0;
  const measured = groups.map((group) => {
    const begins = first;
    first += group.frames;
    return {
      inFrame: picture.from.inFrame + begins,
      frameCount: group.frames,
      bytes: group.bytes,
      seconds: null,
      frames: frames.slice(begins, begins + group.frames),
    };
  });
  await keepMeasured(context, row.source_fingerprint, settingsKey(picture, quality), measured);
}
