import { standInArguments, type StandInRequest } from '../arguments/standIn.ts';
import type { StillRequest } from '../arguments/still.ts';
import { EngineError } from '../engineError.ts';
import { runProcess } from '../process/runProcess.ts';
import { PICTURE_LIMITS, type EnginePaths } from './limits.ts';

/** One piece of a light copy. */
export async function makeStandIn(paths: EnginePaths, request: StandInRequest, signal?: AbortSignal): Promise<Buffer> {
  const result = await runProcess({
    file: paths.ffmpeg,
    arguments: standInArguments(request),
    ...PICTURE_LIMITS,
    ...(signal ? { signal } : {}),
  });
  if (result.exitCode !== 0 || result.stdout.length === 0) {
    const from = request.piece.startSeconds.toFixed(1);
    throw new EngineError(
      'frame-unreadable',
      `The master cannot be decoded from ${from} s on; it may be damaged there.`,
      {
        stderr: result.stderr,
      },
    );
  }
  return result.stdout;
}

/**
 * One frame, as the arguments write it to standard output.
 *
 * @throws EngineError `frame-unreadable`, `frame-outside`.
 */
export async function takeFrame(
  paths: EnginePaths,
  args: readonly string[],
  request: StillRequest,
  signal?: AbortSignal,
): Promise<Buffer> {
  const result = await runProcess({
    file: paths.ffmpeg,
    arguments: args,
    ...PICTURE_LIMITS,
    ...(signal ? { signal } : {}),
  });
  if (result.exitCode !== 0) {
    throw new EngineError(
      'frame-unreadable',
      `Frame ${request.frame} cannot be decoded; the file may be damaged there.`,
      {
        stderr: result.stderr,
      },
    );
  }
  if (result.stdout.length === 0) {
    throw new EngineError('frame-outside', `There is no frame ${request.frame} in this file.`, {
      stderr: result.stderr,
    });
  }
  return result.stdout;
}
