import { mkdir, readdir, rm } from 'node:fs/promises';
import path from 'node:path';
import type { Container } from '../../core/container/names.ts';
import type { EncodedPicture } from '../../core/plan/encodePlan.ts';
import { takeFrames, type FrameSpan } from '../../core/plan/planPicture.ts';
import type { BitsPerSecond } from '../../core/units.ts';
import { RATED } from '../../core/video/codecs.ts';
import { leastLevel } from '../../core/video/levels.ts';
import type { WrittenLabels } from '../../engine/arguments/labels.ts';
import type { SoundFile } from '../../engine/arguments/input.ts';
import { STATISTICS, type PictureRun } from '../../engine/encoders/encoder.ts';
import { optionsOf, type EncodeJob, type PictureEncoder } from './encodeJob.ts';
import type { StageName } from './progress.ts';

/** Where an encoder of one pass or two leaves its statistics and its picture. */
interface Places {
  readonly sound: SoundFile | null;
  readonly output: string | null;
  readonly labels: WrittenLabels | null;
}

/** What encoding a picture works with: of a rendition, or of a trial. */
export type PictureJob = Omit<EncodeJob, 'plan'> & { readonly container: Container };

/** The encoder of one picture. @param sound - Put beside what `encode` makes. */
export function createPictureEncoder(
  job: PictureJob,
  picture: EncodedPicture,
  sound: SoundFile | null,
): PictureEncoder {
  const { journal, container, labels } = job;
  const run = (stage: StageName, what: PictureRun, places: Places, of = picture, folder = job.workingFolder) => {
    const options = { ...optionsOf(job, job.enter(stage, of.out.frameCount)), workingFolder: folder };
    return job.engine.encodePicture(of, what, { source: job.source, container, ...places }, options);
  };
  return {
    analyse: async (asked) => {
      const what = { ...asked, pass: 'first' } as const;
      const statistics = async () =>
        (await readdir(job.workingFolder))
          .filter((name) => name.startsWith(STATISTICS))
          .map((name) => path.join(job.workingFolder, name));
      await journal.step('analysis', what, statistics, async () => {
        await run('analysis', what, { sound: null, output: null, labels: null });
        return null;
      });
    },
    encode: async (stage, what, part) => {
      const output = job.temporary(part);
      await journal.step(
        `pass ${part}`,
        { what, output },
        () => [output],
        async () => {
          await run(stage, what, { sound, output, labels });
          return null;
        },
      );
    },
    encodeSpan: async (span, value, how, output) => {
      const target = { kind: 'quality', value } as const;
      const common = { target, buffer: null, ...how };
      const frames = takeSpan(job, picture, span);
      await journal.step(
        path.basename(output),
        { target, span, ...how },
        () => [output],
        async () => {
          const places = { sound: null, output, labels: null };
          if (RATED[picture.do.codec].quality.passes === 1) {
            await run('retouch', { ...common, pass: 'only' }, places, frames);
            return null;
          }
          // Statistics of its own, beside those of the whole.
          const folder = `${output}.statistics`;
          await mkdir(folder, { recursive: true });
          await run('retouch', { ...common, pass: 'first' }, { ...places, output: null }, frames, folder);
          await run('retouch', { ...common, pass: 'second' }, places, frames, folder);
          await rm(folder, { recursive: true, force: true });
          return null;
        },
      );
    },
  };
}

/** The same way for some of the frames. */
export function takeSpan(
  { facts, clock }: Pick<EncodeJob, 'facts' | 'clock'>,
  picture: EncodedPicture,
  span: FrameSpan,
): EncodedPicture {
  const taken = takeFrames(facts, clock, picture, span);
  const keyframesAt = picture.do.keyframesAt?.map((frame) => frame - span.first);
  return keyframesAt ? { ...taken, do: { ...taken.do, keyframesAt } } : taken;
}

/**
 * The level that encodes are marked with whose groups are to stand for each other: the order's own, or the least that suffices.
 *
 * @param bits - The highest rate they may come to.
 */
export function markedLevel({ out, do: { codec, effort, fine } }: EncodedPicture, bits: BitsPerSecond): string {
  const { levels, heldFrames } = RATED[codec];
  if (fine.level !== null) return fine.level;
  return leastLevel(levels, { size: out.size, rate: out.frameRate, bits, heldFrames: heldFrames[effort] });
}
