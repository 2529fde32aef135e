import { mkdir, rm, stat } from 'node:fs/promises';
import path from 'node:path';
import type { Check, FillView, Problem, QualityView } from '../../contract/views.ts';
import { summariseQuality, type FrameQuality } from '../../core/quality/frameQuality.ts';
import { comparePeak } from '../../engine/arguments/measure.ts';
import { SCALER } from '../../engine/arguments/picture.ts';
import { isEngineError } from '../../engine/engineError.ts';
import type { Context } from '../context.ts';
import { readClock } from '../programmes/frameTimes.ts';
import { withMaster } from '../programmes/masters.ts';
import { isRefusal } from '../refusal.ts';
import { publishFile, sweepLeftovers, temporaryPath } from '../renditions/destination.ts';
import type { RenditionRow } from '../renditions/renditionRow.ts';
import { checkResult } from './checkResult.ts';
import { encodeRendition } from './encodeRendition.ts';
import { RenditionFailure } from './failure.ts';
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
  readonly hasFile: boolean;
  readonly problem: Problem | null;
}

/**
 * One attempt at a rendition, from nothing to a checked file under its final name. The temporary file stays until
 * the caller has recorded the outcome.
 *
 * @throws EngineError `stopped` when the signal fired; everything else becomes a failed outcome.
 */
export async function runRendition(
  context: Context,
  row: RenditionRow,
  reporter: StageReporter,
  signal: AbortSignal,
): Promise<Outcome> {
  const workingFolder = path.join(context.config.dataFolder, 'work', row.id);
  await rm(workingFolder, { recursive: true, force: true });
  await sweepLeftovers(row.path, row.id);
  try {
    await mkdir(workingFolder, { recursive: true });
    await mkdir(path.dirname(row.path), { recursive: true });
    return await attempt(context, row, reporter, signal, workingFolder);
  } catch (error) {
    if (signal.aborted) throw error;
    const problem = explain(error);
    if (problem.code === 'internal-error') context.logger.error({ rendition: row.id, err: error }, 'an attempt failed');
    return {
      ...NOTHING,
      state: 'failed',
      path: row.path,
      problem,
      ...(error instanceof RenditionFailure ? error.details : {}),
    };
  } finally {
    await rm(workingFolder, { recursive: true, force: true });
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
  hasFile: false,
  problem: null,
} as const;

async function attempt(
  context: Context,
  row: RenditionRow,
  reporter: StageReporter,
  signal: AbortSignal,
  workingFolder: string,
): Promise<Outcome> {
  const master = {
    path: row.source_path,
    bytes: row.source_facts.bytes,
    modifiedAt: row.source_modified_at,
    fingerprint: row.source_fingerprint,
  };
  return withMaster(master, (source) => work(context, row, source, reporter, signal, workingFolder));
}

async function work(
  context: Context,
  row: RenditionRow,
  source: string,
  reporter: StageReporter,
  signal: AbortSignal,
  workingFolder: string,
): Promise<Outcome> {
  const { plan } = row;
  const clock = await readClock(context, { id: row.programme_id, facts: row.source_facts });
  const started = performance.now();
  const encoded = await encodeRendition({
    engine: context.engine,
    plan,
    source,
    facts: row.source_facts,
    clock,
    workingFolder,
    temporary: (part) => temporaryPath(row.path, row.id, row.attempt, part),
    signal,
    enter: reporter.enter,
  });
  const encodedAt = performance.now();
  const frames = plan.picture
    ? await context.engine.measure(plan.picture, source, encoded.file, {
        workingFolder,
        signal,
        onProgress: reporter.enter('checking', plan.picture.frameCount),
      })
    : [];
  const checks = await checkResult({
    engine: context.engine,
    plan,
    facts: row.source_facts,
    clock,
    source,
    result: encoded.file,
    decodedFrames: plan.picture ? frames.length : null,
    signal,
  });
  signal.throwIfAborted();
  const quality =
    plan.picture && frames.length > 0
      ? {
          ...summariseQuality(frames, comparePeak(plan.picture)),
          scaler: `${SCALER}, at ${plan.picture.sourceSize.width} × ${plan.picture.sourceSize.height}`,
        }
      : null;
  const common = {
    bytes: (await stat(encoded.file)).size,
    checks,
    quality,
    frames,
    fill: encoded.fill,
    encodeSeconds: (encodedAt - started) / 1000,
    checkSeconds: (performance.now() - encodedAt) / 1000,
  };
  const failed = checks.filter((check) => !check.ok);
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
  if (code === 'EROFS' || code === 'EACCES' || code === 'EPERM') {
    return {
      code: 'destination-read-only',
      message: 'The output folder cannot be written to; change its permissions or choose another.',
    };
  }
  return { code: 'internal-error', message: 'Something unexpected went wrong; the log has the details. Run it again.' };
}
