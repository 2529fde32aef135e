import type { FrameSpan } from '../../core/plan/planPicture.ts';
import type { FillView } from '../../contract/views.ts';
import type { EncodePlan } from '../../core/plan/encodePlan.ts';
import type { ProgrammeFacts } from '../../core/programme/facts.ts';
import type { FrameClock } from '../../core/timing/frameClock.ts';
import type { FrameQuality } from '../../core/quality/frameQuality.ts';
import type { PictureGroup } from '../../engine/parsing/groups.ts';
import type { Bytes } from '../../core/units.ts';
import type { FillSettings, PictureRun } from '../../engine/encoders/encoder.ts';
import type { WrittenLabels } from '../../engine/arguments/labels.ts';
import type { SoundFile } from '../../engine/arguments/input.ts';
import type { Hold } from '../../engine/process/hold.ts';
import type { Engine, RunOptions } from '../../engine/engine.ts';
import type { Journal } from './journal.ts';
import type { StageName } from './progress.ts';

/** What encoding one rendition works with. */
export interface EncodeJob {
  readonly engine: Engine;
  readonly plan: EncodePlan;
  readonly source: string;
  /** What the result tells beside its streams, ready to be written. */
  readonly labels: WrittenLabels | null;
  /** What is known of the source, and when its frames are shown. */
  readonly facts: ProgrammeFacts;
  readonly clock: FrameClock;
  /** Statistics and the encoded sound. */
  readonly workingFolder: string;
  /** Names a temporary file beside the final one. */
  readonly temporary: (part: number) => string;
  /** What is done of it, from this attempt and those before. */
  readonly journal: Journal;
  readonly signal: AbortSignal;
  /** By which its encoders stand still; null for work that nobody holds. */
  readonly hold: Hold | null;
  /** Told what was measured of an encode of the whole on the way: its groups, and their frames. */
  readonly onMeasured?: (
    quality: number,
    groups: readonly PictureGroup[],
    frames: readonly FrameQuality[],
  ) => Promise<void>;
  /** Announces a stage and gives the listener for its progress, from 0 to 1. */
  readonly enter: (stage: StageName, total: number) => RunOptions['onProgress'];
}

export interface Encoded {
  /** Temporary file holding the result. */
  readonly file: string;
  readonly fill: FillView | null;
}

/** The sound, made before the picture and weighed. */
export interface WeighedSound extends SoundFile {
  readonly bytes: Bytes;
}

/** Runs the picture's encoder over one rendition. */
export interface PictureEncoder {
  /** Writes the statistics that second passes work by. */
  analyse(run: Omit<PictureRun, 'pass'>): Promise<void>;
  encode(stage: 'encode' | 'correction', run: PictureRun, part: number): Promise<void>;
  /** Encodes some frames by themselves at a constant quality, without sound, to be joined with passes so filled. */
  encodeSpan(
    span: FrameSpan,
    quality: number,
    how: { readonly fill: FillSettings; readonly keyframeAt?: number },
    output: string,
  ): Promise<void>;
}

/** What the engine is given for a run of this job. */
export function optionsOf(
  job: Pick<EncodeJob, 'workingFolder' | 'signal' | 'hold'>,
  onProgress: RunOptions['onProgress'],
): RunOptions {
  const { workingFolder, signal, hold } = job;
  return { workingFolder, signal, onProgress, ...(hold ? { hold } : {}) };
}
