import { standInArguments, type StandInRequest } from '../arguments/standIn.ts';
import { rawFramesArguments, stillArguments, type SizedStillRequest, type StillRequest } from '../arguments/still.ts';
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
 * One frame as PNG.
 *
 * @throws EngineError `frame-unreadable`, `frame-outside`.
 */
export async function takeFrame(paths: EnginePaths, request: StillRequest, signal?: AbortSignal): Promise<Buffer> {
  const named = `Frame ${request.frame}`;
  const picture = await take(paths, stillArguments(request), named, request.workingFolder, signal);
  if (picture.length === 0) throw outside(named);
  return picture;
}

/**
 * Frames of one size as bare RGB bytes, by one start of the engine. What is drawn in lies in one folder for all.
 *
 * @throws EngineError `frame-unreadable`, `frame-outside`.
 */
export async function takeRawFrames(
  paths: EnginePaths,
  requests: readonly SizedStillRequest[],
  signal?: AbortSignal,
): Promise<Buffer[]> {
  const named = requests.map(({ frame }) => frame).join(', ');
  const names = requests.length === 1 ? `Frame ${named}` : `One of the frames ${named}`;
  const folder = requests.find(({ workingFolder }) => workingFolder)?.workingFolder;
  const bytes = await take(paths, rawFramesArguments(requests), names, folder, signal);
  const length = requests[0] ? requests[0].size.width * requests[0].size.height * 3 : 0;
  if (bytes.length !== length * requests.length) throw outside(names);
  return requests.map((_, index) => bytes.subarray(index * length, (index + 1) * length));
}

async function take(
  paths: EnginePaths,
  args: readonly string[],
  named: string,
  workingFolder: string | undefined,
  signal: AbortSignal | undefined,
): Promise<Buffer> {
  const result = await runProcess({
    file: paths.ffmpeg,
    arguments: args,
    ...PICTURE_LIMITS,
    ...(workingFolder ? { workingFolder } : {}),
    ...(signal ? { signal } : {}),
  });
  if (result.exitCode === 0) return result.stdout;
  throw new EngineError('frame-unreadable', `${named} cannot be decoded; the file may be damaged there.`, {
    stderr: result.stderr,
  });
}

function outside(named: string): EngineError {
  return new EngineError('frame-outside', `${named} is beyond the end of its file.`);
}
