import type { RunOptions } from '../engine.ts';
import { EngineError, isEngineError } from '../engineError.ts';
import { createAdvanceWatch, createProgressReader } from '../parsing/progress.ts';
import { explainEncodeFailure } from '../parsing/readFailure.ts';
import { runProcess, type ProcessRequest } from '../process/runProcess.ts';
import { ENCODE_MEMORY_BYTES, NO_NEW_FRAME_MS, type EnginePaths } from './limits.ts';

/**
 * Runs the encoder to its end.
 *
 * @param readers - Who reads what it says beside.
 * @returns What it wrote to standard error.
 * @throws EngineError with its reason, and `engine-silent` when no new frame came for too long.
 */
export async function encode(
  paths: EnginePaths,
  args: readonly string[],
  options: RunOptions,
  readers: Pick<ProcessRequest, 'onLogLine'> = {},
): Promise<string> {
  const result = await runProcess({
    file: paths.ffmpeg,
    arguments: args,
    workingFolder: options.workingFolder,
    signal: options.signal,
    ...(options.hold ? { hold: options.hold } : {}),
    onLine: createProgressReader(options.onProgress),
    ...readers,
    memoryLimitBytes: ENCODE_MEMORY_BYTES,
    silenceLimitMs: NO_NEW_FRAME_MS,
    isSignOfLife: createAdvanceWatch(),
  }).catch((error: unknown) => {
    if (!isEngineError(error) || error.code !== 'engine-silent') throw error;
    const message =
      'No new frame came out for two minutes, so the encoder was ended. The master may be damaged there, or the encoder was held up from outside; run it again.';
    throw new EngineError('engine-silent', message, { stderr: error.stderrTail, cause: error });
  });
  // A full disk can end with exit code 0, so the log is read as well.
  if (result.exitCode !== 0 || /No space left on device/.test(result.stderr)) {
    const { code, message } = explainEncodeFailure(result.stderr);
    throw new EngineError(code, message, { stderr: result.stderr });
  }
  return result.stderr;
}
