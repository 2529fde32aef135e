import { mkdir } from 'node:fs/promises';
import path from 'node:path';
import { bytesAtRate } from '../../core/budget/projections.ts';
import { RATE_STEP } from '../../core/budget/splitBudget.ts';
import { averageRate, bitsPerSecond, bytes, type BitsPerSecond, type Bytes } from '../../core/units.ts';
import type { FillSettings } from '../../engine/arguments/encode.ts';
import { isEngineError } from '../../engine/engineError.ts';
import type { GroupListing } from '../../engine/parsing/groups.ts';
import { readLeastRate } from '../../engine/parsing/readFailure.ts';
import type { EncodeJob, FrameSpan, PictureEncoder } from './encodeJob.ts';
import type { Retouch } from './filling.ts';

/** Encodes single groups of pictures again by themselves. */
export interface Retoucher {
  /** In the order they were made, and the file of each. */
  readonly retouches: readonly Retouch[];
  readonly files: readonly string[];
  /** @param reference - The groups as they lie in every pass. */
  encode(group: number, asked: Bytes, reference: GroupListing): Promise<void>;
}

/** What is made lies in the job's working folder, a folder for each group. */
export function createRetoucher(job: EncodeJob, encoder: PictureEncoder, fill: FillSettings): Retoucher {
  const retouches: Retouch[] = [];
  const files: string[] = [];
  return {
    retouches,
    files,
    encode: async (group, asked, reference) => {
      const span = spanOf(reference, group);
      const seconds = secondsOf(reference, group, job.plan.durationSeconds);
      const rate = rateFor(asked, seconds);
      const folder = path.join(job.workingFolder, `group-${group}`);
      const file = path.join(folder, `${files.length}.mp4`);
      const isFirst = retouches.every((one) => one.group !== group);
      await mkdir(folder, { recursive: true });
      const size = await encodeAlike(job, encoder, { span, rate, fill, file, isFirst }, reference.settings);
      retouches.push({ group, asked: bytesAtRate(rate, seconds), bytes: size, rate, span });
      files.push(file);
    },
  };
}

/** @returns null when what came out cannot stand in a file with the passes, or the encoder takes no rate as low. */
async function encodeAlike(
  job: EncodeJob,
  encoder: PictureEncoder,
  run: { span: FrameSpan; rate: BitsPerSecond; fill: FillSettings; file: string; isFirst: boolean },
  settings: string,
): Promise<Bytes | null> {
  const { span, rate, fill, file, isFirst } = run;
  try {
    await encoder.encodeSpan(span, rate, fill, file, isFirst);
  } catch (error) {
    if (isEngineError(error) && readLeastRate(error.stderrTail) !== null) return null;
    throw error;
  }
  const made = await job.engine.listGroups(file, job.signal);
  const frames = made.groups.reduce((sum, group) => sum + group.frames, 0);
  if (made.settings !== settings || frames !== span.count) return null;
  return bytes(made.groups.reduce((sum, group) => sum + group.bytes, 0));
}

function spanOf({ groups }: GroupListing, group: number): FrameSpan {
  const first = groups.slice(0, group).reduce((sum, { frames }) => sum + frames, 0);
  return { first, count: groups[group]?.frames ?? 0 };
}

function secondsOf({ groups }: GroupListing, group: number, durationSeconds: number): number {
  const from = groups[0]?.startSeconds ?? 0;
  const start = (groups[group]?.startSeconds ?? from) - from;
  const next = groups[group + 1];
  return (next ? next.startSeconds - from : durationSeconds) - start;
}

function rateFor(asked: Bytes, seconds: number): BitsPerSecond {
  return bitsPerSecond(Math.max(1, Math.round(averageRate(asked, seconds) / RATE_STEP)) * RATE_STEP);
}
