import { mkdir, readdir, rm } from 'node:fs/promises';
import path from 'node:path';
import {
  isEncoded,
  isMastered,
  pictureOf,
  soundsOf,
  type EncodedPicture,
  type MasteredPicture,
  type PictureStream,
} from '../../core/plan/encodePlan.ts';
import { readFrames, timeFrames } from '../../core/plan/planPicture.ts';
import { SOUND } from '../../core/sound/codecs.ts';
import { bytes } from '../../core/units.ts';
import { RATED } from '../../core/video/codecs.ts';
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
  const isCopy = job.plan.streams.every((stream) => stream.do.kind === 'copy');
  if (isCopy) return copyStreams(job, picture, null);
  const sound = await prepareSound(job);
  if (!picture) {
    if (!sound) throw new Error('A plan has neither picture nor sound.');
    return { file: sound.file, fill: null };
  }
  if (isMastered(picture)) return encodeMaster(job, picture, sound);
  if (!isEncoded(picture)) return copyStreams(job, picture, sound);
  const encoder = createPictureEncoder(job, picture, sound?.file ?? null);
  const { rate, codec } = picture.do;
  switch (rate.kind) {
    case 'quality':
      return encodeAt({ kind: 'quality', value: rate.value }, RATED[codec].quality.passes, rate.buffer);
    case 'average':
      return encodeAt({ kind: 'rate', rate: rate.rate }, rate.passes, rate.buffer);
    case 'constant':
      return encodeAt({ kind: 'constant', rate: rate.rate }, 1, rate.buffer);
    case 'fill':
      return fillRendition({ job, picture, encoder, cap: rate.cap, sound });
  }

  async function encodeAt(target: PictureRun['target'], passes: 1 | 2, buffer: PictureRun['buffer']): Promise<Encoded> {
    if (passes === 2) await encoder.analyse({ target, buffer, fill: null });
    await encoder.encode('encode', { target, buffer, pass: passes === 2 ? 'second' : 'only', fill: null }, 0);
    return { file: job.temporary(0), fill: null };
  }
}

/** A picture for editing or the archive, in one go. */
async function encodeMaster(job: EncodeJob, picture: MasteredPicture, sound: WeighedSound | null): Promise<Encoded> {
  const output = job.temporary(0);
  const files = { source: job.source, container: job.plan.container, sound: sound?.file ?? null, output };
  await job.engine.encodeMaster(picture, files, optionsOf(job, job.enter('encode', picture.out.frameCount)));
  return { file: output, fill: null };
}

/** @param encoded - Sound that was encoded and goes beside a copied picture. */
async function copyStreams(
  job: EncodeJob,
  picture: PictureStream | null,
  encoded: WeighedSound | null,
): Promise<Encoded> {
  const { plan, source, facts } = job;
  const output = job.temporary(0);
  const request = {
    picture,
    sounds: encoded ? [] : soundsOf(plan),
    encoded: encoded && { file: encoded.file, beginsAtSeconds: facts.video?.startSeconds ?? 0 },
    container: plan.container,
    source,
    output,
  };
  await job.engine.copyStreams(
    request,
    optionsOf(job, job.enter('copy', picture?.out.frameCount ?? plan.span.seconds)),
  );
  return { file: output, fill: null };
}

/** The sound by itself, encoded or copied, before the picture, so that its bytes are known. */
async function prepareSound(job: EncodeJob): Promise<WeighedSound | null> {
  const { plan, source, engine, facts } = job;
  const [sound] = soundsOf(plan);
  if (!sound) return null;
  const hasPicture = pictureOf(plan) !== null;
  const { waitsIn } = SOUND[sound.do.codec];
  const container = (hasPicture ? waitsIn[plan.container] : null) ?? plan.container;
  // A sound-only rendition is this file; beside a picture it is put there later.
  const file = hasPicture ? path.join(job.workingFolder, `sound.${MUXERS[container].extension}`) : job.temporary(0);
  const options = optionsOf(job, job.enter('sound', sound.out.samples / sound.out.sampleRate));
  const size = await job.journal.step(
    'sound',
    file,
    () => [file],
    async () => {
      if (sound.do.kind === 'encode') {
        await engine.encodeSound({ ...sound, do: sound.do }, container, source, file, options);
      } else {
        await engine.copySound(sound, facts.video?.startSeconds ?? 0, container, source, file, options);
      }
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
    analyse: async (asked) => {
      const what = { ...asked, pass: 'first' } as const;
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
      await journal.step(
        `pass ${part}`,
        { what, output },
        () => [output],
        async () => {
          await run(stage, what, { sound, output });
          return null;
        },
      );
    },
    encodeSpan: async (span, value, fill, output) => {
      const target = { kind: 'quality', value } as const;
      const common = { target, buffer: null, fill };
      const frames = takeSpan(job, picture, span);
      await journal.step(
        path.basename(output),
        { target, span, fill },
        () => [output],
        async () => {
          const places = { sound: null, output };
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
function takeSpan({ facts, clock }: EncodeJob, picture: EncodedPicture, { first, count }: FrameSpan): EncodedPicture {
  if (!facts.video) throw new Error('A programme without a picture has no frames.');
  const frames = { inFrame: picture.from.inFrame + first, frameCount: count };
  return {
    ...picture,
    from: readFrames(facts, facts.video, frames, clock),
    out: { ...picture.out, ...timeFrames(frames, clock) },
  };
}
