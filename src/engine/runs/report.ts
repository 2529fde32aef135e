import { VIDEO_CODECS } from '../../core/video/codecs.ts';
import { SOUND_CODECS } from '../../core/sound/codecs.ts';
import { joinWords } from '../../core/text.ts';
import { programOf, SOUND_ENCODERS } from '../encoders/encoders.ts';
import type { EngineReport } from '../engine.ts';
import { isEngineError } from '../engineError.ts';
import { runProcess } from '../process/runProcess.ts';
import { ASKING_LIMITS, type EnginePaths } from './limits.ts';

/** What the engine of this machine is and has. */
export async function reportEngine(paths: EnginePaths): Promise<EngineReport> {
  try {
    const version = await runProcess({ ...ASKING_LIMITS, file: paths.ffmpeg, arguments: ['-hide_banner', '-version'] });
    const listed = await runProcess({ ...ASKING_LIMITS, file: paths.ffmpeg, arguments: ['-hide_banner', '-encoders'] });
    await runProcess({ ...ASKING_LIMITS, file: paths.ffprobe, arguments: ['-hide_banner', '-version'] });
    const names = new Set(listed.stdout.toString('utf8').split(/\s+/));
    const encoders = VIDEO_CODECS.filter((codec) => names.has(programOf(codec)));
    const soundEncoders = SOUND_CODECS.filter((codec) => names.has(SOUND_ENCODERS[codec].program));
    const missing = [
      ...VIDEO_CODECS.filter((codec) => !encoders.includes(codec)).map(programOf),
      ...SOUND_CODECS.filter((codec) => !soundEncoders.includes(codec)).map((codec) => SOUND_ENCODERS[codec].program),
    ];
    return {
      version: /version (\S+)/.exec(version.stdout.toString('utf8'))?.[1] ?? 'unknown',
      encoders,
      soundEncoders,
      problem: missing.length > 0 ? `This engine was built without ${joinWords(missing)}.` : null,
    };
  } catch (error) {
    if (isEngineError(error)) return { version: null, encoders: [], soundEncoders: [], problem: error.message };
    throw error;
  }
}
