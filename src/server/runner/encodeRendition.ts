import { mkdir, readdir, rm } from 'node:fs/promises';
import path from 'node:path';
import { isEncoded, pictureOf, soundsOf, type EncodedPicture, type PictureStream } from '../../core/plan/encodePlan.ts';
import { readFrames, timeFrames } from '../../core/plan/planPicture.ts';
import { bytes } from '../../core/units.ts';
import { VIDEO } from '../../core/video/codecs.ts';
import { MUXERS } from '../../engine/muxers/muxers.ts';
import { STATISTICS, type PictureRun } from '../../engine/encoders/encoder.ts';
import {
  optionsOf,
  type EncodeJob,
  type Encoded,
  type FrameSpan,
  type PictureEncoder,
  type WeighedSound,
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
  const picture = pictureOf(job.plan);
  if (picture && !isEncoded(picture)) return copyStreams(job, picture);
  const sound = await encodeSound(job);
  if (!picture) {
    if (!sound) throw new Error('A plan has neither picture nor sound.');
    return { file: sound.file, fill: null };
  }
  const encoder = createPictureEncoder(job, picture, sound?.file ?? null);
  const { rate, codec } = picture.do;
  switch (rate.kind) {
    case 'quality':
      return encodeAt({ kind: 'quality', value: rate.value }, VIDEO[codec].quality.passes);
    case 'average':
      return encodeAt({ kind: 'rate', rate: rate.rate }, rate.passes);
    case 'fill':
      return fillRendition({ job, picture, encoder, cap: rate.cap, sound });
  }

  async function encodeAt(target: PictureRun['target'], passes: 1 | 2): Promise<Encoded> {
    if (passes === 2) await encoder.analyse(target, null);
    await encoder.encode('encode', { target, pass: passes === 2 ? 'second' : 'only', fill: null }, 0);
    return { file: job.temporary(0), fill: null };
  }
}

async function copyStreams(job: EncodeJob, picture: PictureStream): Promise<Encoded> {
  const { plan, source } = job;
  const output = job.temporary(0);
  const request = { picture, sounds: soundsOf(plan), container: plan.container, source, output };
  await job.engine.copyStreams(request, optionsOf(job, job.enter('copy', picture.out.frameCount)));
  return { file: output, fill: null };
}

async function encodeSound(job: EncodeJob): Promise<WeighedSound | null> {
  const { plan, source, engine } = job;
  const [sound] = soundsOf(plan);
  if (sound?.do.kind !== 'encode') return null;
  const stream = { ...sound, do: sound.do };
  const { extension } = MUXERS[plan.container];
  // A sound-only rendition is this file; beside a picture it is put there later.
  const file = pictureOf(plan) ? path.join(job.workingFolder, `sound.${extension}`) : job.temporary(0);
  const seconds = sound.out.samples / sound.out.sampleRate;
  const options = optionsOf(job, job.enter('sound', seconds));
  const size = await job.journal.step(
    'sound',
    file,
    () => [file],
    async () => {
      await engine.encodeSound(stream, plan.container, source, file, options);
      const tally = [...(await engine.inspect(file, job.signal)).tallies.values()][0];
      return tally?.bytes ?? 0;
    },
  );
  return { file, bytes: bytes(size) };
}

/** Where an encoder of one pass or two leaves its statistics and its picture. */
interface Places {
  readonly sound: string | null;
  readonly output: string | null;
}

function createPictureEncoder(job: EncodeJob, picture: EncodedPicture, sound: string | null): PictureEncoder {
  const { journal } = job;
  const { container } = job.plan;
  const run = (stage: StageName, what: PictureRun, places: Places, of = picture, folder = job.workingFolder) => {
    const options = { ...optionsOf(job, job.enter(stage, of.out.frameCount)), workingFolder: folder };
    return job.engine.encodePicture(of, what, { source: job.source, container, ...places }, options);
  };
  return {
    analyse: async (target, fill) => {
      const what = { target, pass: 'first', fill } as const;
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
      const target = { kind: 'quality', value } as const;
      const frames = takeSpan(job, picture, span);
      await journal.step(
        path.basename(output),
        { target, span, fill },
        () => [output],
        async () => {
          const places = { sound: null, output };
          if (VIDEO[picture.do.codec].quality.passes === 1) {
            return run('retouch', { target, pass: 'only', fill }, places, frames);
          }
          // Statistics of its own, beside those of the whole.
          const folder = `${output}.statistics`;
          await mkdir(folder, { recursive: true });
          await run('retouch', { target, pass: 'first', fill }, { ...places, output: null }, frames, folder);
          const made = await run('retouch', { target, pass: 'second', fill }, places, frames, folder);
          await rm(folder, { recursive: true, force: true });
          return made;
        },
      );
    },
  };
}

/** The same way for some of the frames. */
function takeSpan({ facts, clock }: EncodeJob, picture: EncodedPicture, { first, count }: FrameSpan): EncodedPicture {
  if (!facts.video) throw new Error('A programme without a picture has no frames.');
  const frames = { inFrame: picture.from.inFrame + first, frameCount: count };
  return {
    ...picture,
    from: readFrames(facts, facts.video, frames, clock),
    out: { ...picture.out, ...timeFrames(frames, clock) },
  };
}
