import { captionArguments, type CaptionSource } from '../arguments/captions.ts';
import { EngineError } from '../engineError.ts';
import { runProcess } from '../process/runProcess.ts';
import { READING_LIMITS, type EnginePaths } from './limits.ts';

/** A master is read through for its captions, but nobody waits longer. */
const LIMIT_MS = 10 * 60_000;

/**
 * Captions as WebVTT.
 *
 * @throws EngineError `captions-unreadable`.
 */
export async function readCaptions(paths: EnginePaths, source: CaptionSource, signal?: AbortSignal): Promise<string> {
  const result = await runProcess({
    file: paths.ffmpeg,
    arguments: captionArguments(source),
    memoryLimitBytes: READING_LIMITS.memoryLimitBytes,
    timeLimitMs: LIMIT_MS,
    ...(signal ? { signal } : {}),
  });
  if (result.exitCode === 0) return result.stdout.toString('utf8');
  const message =
    'These captions cannot be read as text; they may be damaged, or written in another alphabet than UTF-8.';
  throw new EngineError('captions-unreadable', message, { stderr: result.stderr });
}
