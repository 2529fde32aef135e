import { concludeFindings, type Findings } from '../../src/core/analysis/conclude.ts';
import { planAnalysis, type AnalysisStretch } from '../../src/core/analysis/planAnalysis.ts';
import { assumeColour } from '../../src/core/programme/colour.ts';
import type { ProgrammeFacts } from '../../src/core/programme/facts.ts';
import { programmeClock } from '../../src/core/programme/programmeClock.ts';
import type { FrameClock } from '../../src/core/timing/frameClock.ts';
import { createEngine } from '../../src/engine/createEngine.ts';
import { makeFolder } from './footage.ts';

const engine = createEngine({ ffmpeg: 'ffmpeg', ffprobe: 'ffprobe' });

/** A file's facts and when its frames are shown. */
export async function lookAtFile(file: string): Promise<{ facts: ProgrammeFacts; clock: FrameClock }> {
  const { facts, frameTimes } = await engine.probe(file);
  const clock = programmeClock(facts, frameTimes);
  return { facts, clock };
}

/** Analyses a file as the server does, in the stretches it would cut or in given ones. */
export async function analyseFile(
  file: string,
  stretches?: (facts: ProgrammeFacts, clock: FrameClock) => readonly AnalysisStretch[],
): Promise<{ facts: ProgrammeFacts; clock: FrameClock; findings: Findings }> {
  const { facts, clock } = await lookAtFile(file);
  const plan = planAnalysis(facts, clock);
  const measured = [];
  for (const stretch of stretches?.(facts, clock) ?? plan.stretches) {
    const { video, audio } = facts;
    const [track] = audio;
    const startSeconds = video?.startSeconds ?? track?.startSeconds ?? 0;
    measured.push(
      await engine.analyse(
        {
          source: file,
          stretch,
          picture: video && {
            streamIndex: video.index,
            frameRate: facts.frameRate,
            size: facts,
            colour: assumeColour(video.colour, facts.height),
            range: video.colour.range ?? 'limited',
            pictureInterval: plan.pictureInterval,
          },
          sound: track ? { streamIndex: track.index, startSeconds, channels: track.channels } : null,
        },
        { workingFolder: makeFolder(), signal: new AbortController().signal, onFrames: () => undefined },
      ),
    );
  }
  return { facts, clock, findings: concludeFindings(measured, facts.frameRate, clock) };
}
