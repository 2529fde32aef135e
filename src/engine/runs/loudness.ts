import { inputArguments } from '../arguments/input.ts';
import type { Loudness } from '../engine.ts';
import { EngineError } from '../engineError.ts';
import { parseLoudness } from '../parsing/loudness.ts';
import { runProcess } from '../process/runProcess.ts';
import { READING_LIMITS, type EnginePaths } from './limits.ts';

/** Listens to a file's first sound from end to end. */
export async function measureLoudness(paths: EnginePaths, file: string, signal?: AbortSignal): Promise<Loudness> {
  const result = await runProcess({
    file: paths.ffmpeg,
    arguments: [
      ...['-hide_banner', '-nostdin', '-nostats', ...inputArguments(file)],
      ...['-map', '0:a:0', '-af', 'ebur128=peak=true:framelog=verbose', '-f', 'null', '-'],
    ],
    ...READING_LIMITS,
    ...(signal ? { signal } : {}),
  });
  const loudness = result.exitCode === 0 ? parseLoudness(result.stderr) : null;
  if (loudness) return loudness;
  throw new EngineError('engine-failed', 'The sound of a finished file could not be listened to.', {
    stderr: result.stderr,
  });
}
