import path from 'node:path';
import type { EncodedPicture } from '../../core/plan/encodePlan.ts';
import { lossesOfGroups } from '../../core/quality/groupLoss.ts';
import { bytes, type Bytes } from '../../core/units.ts';
import type { FillSettings } from '../../engine/encoders/encoder.ts';
import { MUXERS } from '../../engine/muxers/muxers.ts';
import type { GroupListing } from '../../engine/parsing/groups.ts';
import type { FrameSpan } from '../../core/plan/planPicture.ts';
import { optionsOf, type EncodeJob, type PictureEncoder } from './encodeJob.ts';
import type { Retouch } from './filling.ts';
import { takeSpan } from './pictureEncoder.ts';

/** Encodes single groups of pictures again by themselves. */
export interface Retoucher {
  /** In the order they were made, and the file of each. */
  readonly retouches: readonly Retouch[];
  readonly files: readonly string[];
  /** @param reference - The groups as they lie in every pass. */
  encode(group: number, quality: number, reference: GroupListing): Promise<void>;
}

/** What is made lies in the job's working folder. */
export function createRetoucher(
  job: EncodeJob,
  picture: EncodedPicture,
  encoder: PictureEncoder,
  fill: FillSettings,
): Retoucher {
  const retouches: Retouch[] = [];
  const files: string[] = [];
  const lossOf = async (file: string, span: FrameSpan) => {
    const options = optionsOf(job, () => undefined);
    const compared = { picture: takeSpan(job, picture, span), file };
    const [frames = []] = await job.engine.compare(job.source, [compared], options);
    return lossesOfGroups(frames, [span.count])[0] ?? null;
  };
  return {
    retouches,
    files,
    encode: async (group, quality, reference) => {
      const span = spanOf(reference, group);
      const file = path.join(job.workingFolder, `again-${files.length}.${MUXERS[job.plan.container].extension}`);
      await encoder.encodeSpan(span, quality, { fill }, file);
      const made = await job.engine.listGroups(file, job.signal);
      const bytes = weighAlike(made, span, reference.settings);
      const loss = bytes === null ? null : await lossOf(file, span);
      retouches.push({ group, quality, bytes, loss, span });
      files.push(file);
    },
  };
}

/** @returns null when what came out cannot stand in a file with the passes. */
function weighAlike({ groups, settings }: GroupListing, span: FrameSpan, wanted: string): Bytes | null {
  const frames = groups.reduce((sum, group) => sum + group.frames, 0);
  if (settings !== wanted || frames !== span.count) return null;
  return bytes(groups.reduce((sum, group) => sum + group.bytes, 0));
}

function spanOf({ groups }: GroupListing, group: number): FrameSpan {
  const first = groups.slice(0, group).reduce((sum, { frames }) => sum + frames, 0);
  return { first, count: groups[group]?.frames ?? 0 };
}
