import { statSync } from 'node:fs';
import { concludeFindings, type Findings } from '../../src/core/analysis/conclude.ts';
import { planAnalysis, type AnalysisStretch } from '../../src/core/analysis/planAnalysis.ts';
import { listenTo } from '../../src/core/programme/channelTracks.ts';
import { assumeColour } from '../../src/core/programme/colour.ts';
import type { ProgrammeFacts } from '../../src/core/programme/facts.ts';
import { programmeClock } from '../../src/core/programme/programmeClock.ts';
import type { FrameClock } from '../../src/core/timing/frameClock.ts';
import { createEngine } from '../../src/engine/createEngine.ts';
import { makeFolder } from './footage.ts';

const engine = createEngine({ ffmpeg: 'ffmpeg', ffprobe: 'ffprobe' });

interface Look {
  readonly facts: ProgrammeFacts;
  readonly clock: FrameClock;
}

/** Files that were looked at before and have not changed since: many tests make things of the same master. */
const seen = new Map<string, Promise<Look>>();

/** A file's facts and when its frames are shown. */
export function lookAtFile(file: string): Promise<Look> {
  const { size, mtimeMs, ino } = statSync(file);
  const key = [file, size, mtimeMs, ino].join('\n');
  const look = seen.get(key) ?? lookAfresh(file);
  seen.set(key, look);
  return look;
}

async function lookAfresh(file: string): Promise<Look> {
  const { facts, frameTimes } = await engine.probe(file);
  return { facts, clock: programmeClock(facts, frameTimes) };
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
    const { video } = facts;
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
            transparentBy: video.alpha ? video.codec : null,
            pictureInterval: plan.pictureInterval,
          },
          sound: listenTo(facts),
        },
        {
          isGentle: false,
          workingFolder: makeFolder(),
          signal: new AbortController().signal,
          onFrames: () => undefined,
        },
      ),
    );
  }
  return { facts, clock, findings: concludeFindings(measured, facts.frameRate, clock) };
}
