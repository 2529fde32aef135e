import { CONTAINER } from '../container/containers.ts';
import { CONTAINERS, type Container } from '../container/names.ts';
import { AS_IT_IS, namePreparation } from '../geometry/preparation.ts';
import { isWhole, type AudioFacts, type ProgrammeFacts, type VideoFacts } from '../programme/facts.ts';
import { nameSourceCodec } from '../programme/sourceCodecs.ts';
import { isCopied } from '../recipe/recipe.ts';
import { SOUND, soundCodecOf, soundCodecsOf, type SoundCodec } from '../sound/codecs.ts';
import { joinWords } from '../text.ts';
import type { FrameClock } from '../timing/frameClock.ts';
import { bytes, type Bytes } from '../units.ts';
import { isVideoCodec, VIDEO, videoCodecsOf, type VideoCodec } from '../video/codecs.ts';
import type { PictureStream, SoundStream } from './encodePlan.ts';
import { copiesPart } from './copiedPortion.ts';
import { planPicture, type Frames } from './planPicture.ts';
import type { PlanProblem } from './planProblem.ts';
import type { PlanRequest } from './planRequest.ts';

/** The container a master's own streams can go into as they are, the most usual first; null where none takes them. */
export function copyContainer({ video, audio }: ProgrammeFacts): Container | null {
  if (!video) return null;
  const takes = (container: Container) =>
    carriesPicture(container, video.codec) && audio.every((track) => carriesSound(container, track.codec));
  return CONTAINERS.find(takes) ?? null;
}

/**
 * The container a master's picture can go into as it is.
 *
 * @param wanted - Taken where it will do.
 * @returns null where none takes it.
 */
export function copiedPictureContainer({ video }: ProgrammeFacts, wanted: Container): Container | null {
  if (!video) return null;
  return [wanted, ...CONTAINERS].find((container) => carriesPicture(container, video.codec)) ?? null;
}

/** Whether a container takes a master's first sound as it is. */
export function takesOwnSound(container: Container, { audio: [track] }: ProgrammeFacts): boolean {
  return track !== undefined && carriesSound(container, track.codec);
}

function carriesPicture(container: Container, codec: string): boolean {
  return isVideoCodec(codec) && VIDEO[codec].containers.includes(container);
}

function carriesSound(container: Container, stored: string): boolean {
  const codec = soundCodecOf(stored);
  return codec !== null && SOUND[codec].containers.includes(container);
}

/** Everything that stands in the way of copying what a recipe says is to be copied. */
export function* findCopyMisfits({ facts, recipe, portion, cuts }: PlanRequest): Generator<PlanProblem> {
  const { video, audio, picture, time, container } = recipe;
  const { name } = CONTAINER[container];
  const wanted = isCopied(audio) ? audio.tracks.flatMap((index) => facts.audio[index] ?? []) : [];
  const track = wanted.find((one) => !carriesSound(container, one.codec));
  if (track) {
    const copied = joinWords(soundCodecsOf(container).map((codec) => SOUND[codec].name));
    const found = nameSourceCodec(track.codec);
    yield cannot(
      'audio',
      `The sound is in ${found}; only ${copied} can be copied into ${name}. Encode it, or leave it out.`,
    );
  }
  const isPart = portion !== null && !isWhole(portion, facts);
  if (isPart && (isCopied(video) || isCopied(audio)) && facts.video?.seeksExactly === false) {
    yield cannot('portion', 'This master has no index to copy a part by; take the whole programme, or encode it.');
  } else if (copiesPart(facts, recipe, portion) && !cuts) {
    yield cannot('portion', 'Where this master’s keyframes lie, and so where a copy may begin, is not known yet.');
  }
  if (!isCopied(video) || !facts.video) return;
  if (!carriesPicture(container, facts.video.codec)) {
    const copied = joinWords(videoCodecsOf(container).map((codec) => VIDEO[codec].name));
    const found = nameSourceCodec(facts.video.codec);
    yield cannot('video', `The picture is in ${found}; only ${copied} can be copied into ${name}. Encode it.`);
  }
  const hasTreatment = namePreparation(picture) !== '';
  if (hasTreatment || picture.fit || picture.fill || picture.mark || time.frameRate !== 'source') {
    yield cannot(
      'picture',
      'A copied picture keeps its frames; take out crop, turning, padding, deinterlacing, standard range, noise reduction, adjustments, mark, frame size and frame rate, or encode it.',
    );
  }
}

/** How a master's picture is copied, once nothing stands in the way. */
export function planCopiedPicture(
  facts: ProgrammeFacts,
  source: VideoFacts,
  clock: FrameClock,
  frames: Frames,
): PictureStream {
  const path = planPicture({
    facts,
    video: source,
    clock,
    frames,
    size: { width: facts.width, height: facts.height },
    preparation: AS_IT_IS,
    // A copy is compared in the usual one.
    format: '420p8',
    rate: null,
  });
  return { ...path, kind: 'picture', do: { kind: 'copy', codec: requireVideoCodec(source.codec) }, chain: [] };
}

/**
 * How a master's sound is copied, once nothing stands in the way.
 *
 * @param fromSeconds - When the picture it goes with begins in the master: what is heard before is left out.
 * @param most - How long it may be; null for as long as it is.
 */
export function planCopiedSound(track: AudioFacts, fromSeconds: number, most: number | null): SoundStream {
  const left = track.durationSeconds - Math.max(0, fromSeconds - track.startSeconds);
  const seconds = Math.min(left, most ?? Infinity);
  return {
    kind: 'sound',
    from: [{ streamIndex: track.index }],
    do: { kind: 'copy', codec: requireSoundCodec(track.codec) },
    chain: [],
    out: {
      sampleRate: track.sampleRate,
      samples: Math.max(0, Math.round(seconds * track.sampleRate)),
      channels: null,
    },
  };
}

/** Frames from keyframe to keyframe in a copy, for what its index takes. */
export function copiedKeyframeInterval({ keyframeDistance }: VideoFacts, frameCount: number): number {
  return Math.max(1, keyframeDistance?.most ?? frameCount);
}

/**
 * What a master's picture weighs.
 *
 * @param seconds - Of it.
 */
export function weighPicture(facts: ProgrammeFacts, seconds: number): Bytes {
  const rate = facts.video?.bitsPerSecond ?? (facts.bytes * 8) / facts.durationSeconds;
  return bytes((rate * seconds) / 8);
}

/**
 * What a master's track weighs.
 *
 * @param seconds - Of it.
 */
export function weighTrack({ bitsPerSecond }: AudioFacts, seconds: number): Bytes {
  return bytes(((bitsPerSecond ?? 0) * seconds) / 8);
}

/** Misfits were found before. */
function requireVideoCodec(codec: string): VideoCodec {
  if (!isVideoCodec(codec)) throw new RangeError(`${codec} is not copied.`);
  return codec;
}

function requireSoundCodec(stored: string): SoundCodec {
  const codec = soundCodecOf(stored);
  if (codec === null) throw new RangeError(`${stored} is not copied.`);
  return codec;
}

function cannot(field: string, message: string): PlanProblem {
  return { code: 'copy-cannot', field, message };
}
