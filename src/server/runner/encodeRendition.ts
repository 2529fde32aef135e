import { readdir } from 'node:fs/promises';
import path from 'node:path';
import type { PicturePlan, VideoEncodePlan } from '../../core/rate/encodePlan.ts';
import { planPicture } from '../../core/rate/planPicture.ts';
import { bytes } from '../../core/units.ts';
import { STATISTICS, type PictureRun } from '../../engine/arguments/encode.ts';
import {
  optionsOf,
  type EncodedSound,
  type EncodeJob,
  type Encoded,
  type FrameSpan,
  type PictureEncoder,
} from './encodeJob.ts';
import { fillRendition } from './fillRendition.ts';
import type { StageName } from './progress.ts';

/**
 * Encodes a rendition pass by pass: sound first, so that its bytes are known, then the picture.
 *
 * @throws RenditionFailure `cap-below-floor` when the cap cannot be met.
 * @throws EngineError as the engine does.
 */
export async function encodeRendition(job: EncodeJob): Promise<Encoded> {
  const { plan } = job;
  if (plan.picture && plan.video?.rate.kind === 'copied') return copyStreams(job, plan.picture, plan.video);
  const sound = await encodeSound(job);
  if (!plan.picture || !plan.video) {
    if (!sound) throw new Error('A plan has neither picture nor sound.');
    return { file: sound.file, fill: null };
  }
  const picture = createPictureEncoder(job, plan.picture, plan.video, sound?.file ?? null);
  const { rate } = plan.video;
  switch (rate.kind) {
    case 'quality':
      await picture.encode('encode', { kind: 'quality', value: rate.value, fill: null }, 0);
      return { file: job.temporary(0), fill: null };
    case 'average': {
      if (rate.passes === 2) await picture.analyse(rate.rate, null);
      const run = { kind: rate.passes === 2 ? 'second' : 'average', rate: rate.rate, fill: null } as const;
      await picture.encode('encode', run, 0);
      return { file: job.temporary(0), fill: null };
    }
    case 'copied':
      throw new Error('A copy has no passes.');
    case 'fill':
      return fillRendition(job, plan.picture, plan.video, picture, rate.cap, sound);
  }
}

async function copyStreams(job: EncodeJob, picture: PicturePlan, video: VideoEncodePlan): Promise<Encoded> {
  const output = job.temporary(0);
  const request = { picture, video, sound: job.plan.sound, source: job.source, output };
  await job.engine.copyStreams(request, optionsOf(job, job.enter('copy', picture.frameCount)));
  return { file: output, fill: null };
}

async function encodeSound(job: EncodeJob): Promise<EncodedSound | null> {
  const { sound, picture } = job.plan;
  if (!sound) return null;
  // A sound-only rendition is its sound file; beside a picture it is only material.
  const file = picture ? path.join(job.workingFolder, 'sound.m4a') : job.temporary(0);
  const seconds = sound.samples / sound.sampleRate;
  const options = optionsOf(job, job.enter('sound', seconds));
  const size = await job.journal.step(
    'sound',
    file,
    () => [file],
    async () => {
      await job.engine.encodeSound(sound, job.source, file, options);
      const tally = [...(await job.engine.inspect(file, job.signal)).tallies.values()][0];
      return tally?.bytes ?? 0;
    },
  );
  return { file, bytes: bytes(size) };
}

function createPictureEncoder(
  job: EncodeJob,
  picture: PicturePlan,
  video: VideoEncodePlan,
  sound: string | null,
): PictureEncoder {
  const run = async (
    stage: StageName,
    what: PictureRun,
    files: { sound: string | null; output: string | null },
    frames = picture,
  ) => {
    const options = optionsOf(job, job.enter(stage, frames.frameCount));
    return job.engine.encodePicture(frames, video, what, { source: job.source, ...files }, options);
  };
  const { journal } = job;
  return {
    analyse: async (rate, fill) => {
      const what = { kind: 'analysis', rate, fill } as const;
      const statistics = async () =>
        (await readdir(job.workingFolder))
          .filter((name) => name.startsWith(STATISTICS))
          .map((name) => path.join(job.workingFolder, name));
      await journal.step('analysis', what, statistics, async () => {
        await run('analysis', what, { sound: null, output: null });
        return null;
      });
    },
    encode: async (stage, what, part) => {
      const output = job.temporary(part);
      const made = await journal.step(
        `pass ${part}`,
        { what, output },
        () => [output],
        () => run(stage, what, { sound, output }),
      );
      return made.meanQuantiser;
    },
    encodeSpan: async (span, value, fill, output) => {
      const what = { kind: 'quality', value, fill } as const;
      const frames = planSpan(job, picture, span);
      await journal.step(
        path.basename(output),
        { what, span },
        () => [output],
        () => run('retouch', what, { sound: null, output }, frames),
      );
    },
  };
}

function planSpan(job: EncodeJob, picture: PicturePlan, { first, count }: FrameSpan): PicturePlan {
  const { facts, clock } = job;
  if (!facts.video) throw new Error('A programme without a picture has no frames.');
  const frames = { inFrame: picture.inFrame + first, frameCount: count };
  return planPicture(facts, facts.video, picture.size, picture.preparation, frames, clock);
}
