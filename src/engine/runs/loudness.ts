import type { EncodedSoundStream } from '../../core/plan/encodePlan.ts';
import type { SoundLevel } from '../../core/sound/loudness.ts';
import { listenArguments } from '../arguments/encode.ts';
import { inputArguments } from '../arguments/input.ts';
import type { RunOptions } from '../engine.ts';
import { EngineError } from '../engineError.ts';
import { METER } from '../filters/sound.ts';
import { parseLoudness } from '../parsing/loudness.ts';
import { runProcess, type ProcessRequest } from '../process/runProcess.ts';
import { READING_LIMITS, type EnginePaths } from './limits.ts';

/** Listens to one of a file's sounds from end to end; the first is 0. */
export function measureLoudness(
  paths: EnginePaths,
  file: string,
  track: number,
  signal?: AbortSignal,
): Promise<SoundLevel> {
  const args = ['-hide_banner', '-nostdin', '-nostats', ...inputArguments(file)];
  return listen(paths, [...args, '-map', `0:a:${track}`, '-af', METER, '-f', 'null', '-'], signal ? { signal } : {});
}

/** Listens to what a sound is before it is brought to its level. */
export function hearSource(
  paths: EnginePaths,
  sound: EncodedSoundStream,
  source: string,
  { signal, hold }: RunOptions,
): Promise<SoundLevel> {
  return listen(paths, listenArguments(sound, source), { signal, ...(hold ? { hold } : {}) });
}

async function listen(
  paths: EnginePaths,
  args: readonly string[],
  options: Pick<ProcessRequest, 'signal' | 'hold'>,
): Promise<SoundLevel> {
  const result = await runProcess({ file: paths.ffmpeg, arguments: args, ...READING_LIMITS, ...options });
  const level = result.exitCode === 0 ? parseLoudness(result.stderr) : null;
  if (level) return level;
  throw new EngineError('engine-failed', 'How loud the sound is could not be measured.', { stderr: result.stderr });
}
