import type { MeasuredStretch } from '../../core/analysis/measured.ts';
import { analyseArguments, edgeInterval, type AnalysisRequest } from '../arguments/analyse.ts';
import type { Engine } from '../engine.ts';
import { EngineError } from '../engineError.ts';
import { createAnalysisReader } from '../parsing/analysis.ts';
import { explainEncodeFailure } from '../parsing/readFailure.ts';
import { runProcess } from '../process/runProcess.ts';
import { READING_LIMITS, type EnginePaths } from './limits.ts';

/** Progress is told this often: every frame would be a flood. */
const FRAMES_PER_REPORT = 50;

/** Measures one stretch in one decode. */
export async function analyse(
  paths: EnginePaths,
  request: AnalysisRequest,
  options: Parameters<Engine['analyse']>[1],
): Promise<MeasuredStretch> {
  const { picture, sound, stretch } = request;
  const reader = createAnalysisReader(stretch, sound?.channels ?? 0);
  let reported = 0;
  const result = await runProcess({
    file: paths.ffmpeg,
    arguments: analyseArguments(request),
    workingFolder: options.workingFolder,
    signal: options.signal,
    onLine: reader.readPacket,
    onLogLine: (line) => {
      const taken = reader.readLog(line);
      if (reader.framesRead() >= reported + FRAMES_PER_REPORT) options.onFrames((reported = reader.framesRead()));
      return taken;
    },
    isGentle: options.isGentle,
    ...READING_LIMITS,
  });
  if (result.exitCode !== 0) {
    const { code, message } = explainEncodeFailure(result.stderr);
    throw new EngineError(code, message, { stderr: result.stderr });
  }
  return {
    inFrame: stretch.inFrame,
    picture: picture && reader.picture(picture.size, edgeInterval(stretch, picture.frameRate)),
    sound: sound && reader.sound(),
  };
}
