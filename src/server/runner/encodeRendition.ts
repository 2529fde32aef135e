import path from 'node:path';
import {
  isEncoded,
  isEncodedSound,
  isMastered,
  pictureOf,
  soundsOf,
  type MasteredPicture,
  type PictureStream,
  type SoundStream,
} from '../../core/plan/encodePlan.ts';
import { SOUND } from '../../core/sound/codecs.ts';
import { bytes } from '../../core/units.ts';
import { RATED } from '../../core/video/codecs.ts';
import type { SoundCopy } from '../../engine/arguments/copy.ts';
import type { Container } from '../../core/container/names.ts';
import { MUXERS } from '../../engine/muxers/muxers.ts';
import type { PictureRun } from '../../engine/encoders/encoder.ts';
import { optionsOf, type EncodeJob, type Encoded, type WeighedSound } from './encodeJob.ts';
import { fillRendition } from './fillRendition.ts';
import { createPictureEncoder } from './pictureEncoder.ts';

/**
 * Encodes a rendition pass by pass: sound first, so that its bytes are known, then the picture.
 *
 * @throws RenditionFailure `cap-below-floor` when the cap cannot be met.
 * @throws EngineError as the engine does.
 */
export async function encodeRendition(job: EncodeJob): Promise<Encoded> {
  const { container } = job.plan;
  const picture = pictureOf(job.plan);
  const isCopy = job.plan.streams.every((stream) => stream.do.kind === 'copy');
  if (isCopy && !isPart(job)) return copyStreams(job, picture, null);
  const sound = await prepareSound(job);
  if (!picture) {
    if (!sound) throw new Error('A plan has neither picture nor sound.');
    const isMade = job.plan.streams.some((stream) => stream.do.kind === 'encode');
    return isMade ? { file: sound.file, fill: null } : copyStreams(job, null, sound);
  }
  if (isMastered(picture)) return encodeMaster(job, picture, sound);
  if (!isEncoded(picture)) return copyStreams(job, picture, sound);
  const encoder = createPictureEncoder({ ...job, container }, picture, sound);
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
  const files = { source: job.source, container: job.plan.container, sound, output, labels: job.labels };
  await job.engine.encodeMaster(picture, files, optionsOf(job, job.enter('encode', picture.out.frameCount)));
  return { file: output, fill: null };
}

/** @param made - Sound that was made before and goes beside a copied picture. */
async function copyStreams(job: EncodeJob, picture: PictureStream | null, made: WeighedSound | null): Promise<Encoded> {
  const { plan, source, labels, facts, clock } = job;
  const output = job.temporary(0);
  const pictureSeconds = facts.video?.startSeconds ?? 0;
  const { inFrame, frameCount, seconds } = plan.span;
  const part =
    picture && isPart(job) ? { atSeconds: pictureSeconds + clock.secondsOf(inFrame), seconds, frameCount } : null;
  const sounds = made ? [] : soundsOf(plan);
  const request = {
    picture,
    sounds,
    made,
    part,
    // Beside sound of its own master a picture begins when it does there, and otherwise at once.
    earlierSeconds: picture && !part && sounds.length === 0 ? pictureSeconds : 0,
    container: plan.container,
    labels,
    source,
    output,
  };
  await job.engine.copyStreams(
    request,
    optionsOf(job, job.enter('copy', picture?.out.frameCount ?? plan.span.seconds)),
  );
  return { file: output, fill: null };
}

function isPart({ plan, facts }: EncodeJob): boolean {
  return plan.span.frameCount < facts.frameCount;
}

/** The sounds by themselves, encoded or copied, before the picture, so that their bytes are known. */
async function prepareSound(job: EncodeJob): Promise<WeighedSound | null> {
  const { plan, source, engine } = job;
  const sounds = soundsOf(plan);
  const [sound] = sounds;
  if (!sound) return null;
  const encoded = sounds.filter(isEncodedSound);
  const { file, container } = waitingPlace(job, sound);
  const options = optionsOf(job, job.enter('sound', sound.out.samples / sound.out.sampleRate));
  const { size, delaySeconds } = await job.journal.step(
    'sounds',
    file,
    () => [file],
    async () => {
      if (encoded.length === 0) {
        const copied = await engine.copySounds(ownSound(job, sounds), source, file, options);
        return { size: copied.bytes, delaySeconds: copied.delaySeconds };
      }
      const labels = pictureOf(plan) ? null : job.labels;
      await engine.encodeSounds({ sounds: encoded, container, source, output: file, labels }, options);
      const tallies = [...(await engine.inspect(file, job.signal)).tallies.values()];
      return { size: tallies.reduce((sum, tally) => sum + tally.bytes, 0), delaySeconds: 0 };
    },
  );
  return { file, bytes: bytes(size), delaySeconds };
}

/** Where sound waits for its picture. Encoded sound alone is the rendition itself. */
function waitingPlace(
  { plan, workingFolder, temporary }: EncodeJob,
  { do: work }: SoundStream,
): { readonly file: string; readonly container: Container } {
  if (work.kind === 'copy') return { file: path.join(workingFolder, 'copied-sound'), container: plan.container };
  if (!pictureOf(plan)) return { file: temporary(0), container: plan.container };
  const container = SOUND[work.codec].waitsIn[plan.container] ?? plan.container;
  return { file: path.join(workingFolder, `sound.${MUXERS[container].extension}`), container };
}

/** The master's sound that goes with what is seen. */
function ownSound(job: EncodeJob, sounds: readonly SoundStream[]): SoundCopy {
  const { plan, facts } = job;
  return {
    streams: sounds.flatMap(({ from }) => from.map(({ streamIndex }) => streamIndex)),
    atSeconds: (facts.video?.startSeconds ?? 0) + plan.span.startSeconds,
    seconds: isPart(job) ? plan.span.seconds : null,
    isWhole: sounds.some(({ do: { codec } }) => SOUND[codec].rate.kind === 'whole'),
    packetSeconds: Math.max(...sounds.map(({ do: { codec }, out }) => SOUND[codec].packetSamples / out.sampleRate)),
  };
}
