import { estimateAround } from '../budget/projections.ts';
import { CONTAINER } from '../container/containers.ts';
import { CONTAINERS, type Container } from '../container/names.ts';
import { AS_IT_IS } from '../geometry/preparation.ts';
import type { Portion, ProgrammeFacts, VideoFacts } from '../programme/facts.ts';
import type { FrameClock } from '../timing/frameClock.ts';
import { isSoundCodec, SOUND, soundCodecsOf, type SoundCodec } from '../sound/codecs.ts';
import { joinWords } from '../text.ts';
import { bitsPerSecond, bytes, type Bytes } from '../units.ts';
import { isVideoCodec, VIDEO, videoCodecsOf, type VideoCodec } from '../video/codecs.ts';
import type { PlannedBudget, PictureStream, SoundStream } from './encodePlan.ts';
import { planPicture } from './planPicture.ts';
import type { PlanProblem } from './planProblem.ts';
import { isCopied, type Recipe } from '../recipe/recipe.ts';

/** Index tables foreseen and real differ by less than this share of a copied file. */
const COPY_MISS = 0.005;

/** The container a master's own streams can go into as they are, the most usual first; null where none takes them. */
export function copyContainer({ video, audio: [track] }: ProgrammeFacts): Container | null {
  if (!video) return null;
  const takes = (container: Container) =>
    carriesPicture(container, video.codec) && (!track || carriesSound(container, track.codec));
  return CONTAINERS.find(takes) ?? null;
}

function carriesPicture(container: Container, codec: string): boolean {
  return isVideoCodec(codec) && VIDEO[codec].containers.includes(container);
}

function carriesSound(container: Container, codec: string): boolean {
  return isSoundCodec(codec) && SOUND[codec].containers.includes(container);
}

/** Everything that stands in the way of copying what a recipe says is to be copied. */
export function* findCopyMisfits(
  facts: ProgrammeFacts,
  recipe: Recipe,
  portion: Portion | null,
): Generator<PlanProblem> {
  const { video, audio, picture, container } = recipe;
  const [track] = facts.audio;
  if (audio && isCopied(audio) !== isCopied(video)) {
    yield cannot('audio', 'Picture and sound are copied together or not at all; copy both, or encode both.');
  }
  if (!isCopied(video) || !facts.video) return;
  const { name } = CONTAINER[container];
  if (!carriesPicture(container, facts.video.codec)) {
    const copied = joinWords(videoCodecsOf(container).map((codec) => VIDEO[codec].name));
    yield cannot('video', `The picture is in ${facts.video.codec}; only ${copied} is copied into ${name}. Encode it.`);
  }
  if (isCopied(audio) && track && !carriesSound(container, track.codec)) {
    const copied = joinWords(soundCodecsOf(container).map((codec) => SOUND[codec].name));
    yield cannot(
      'audio',
      `The sound is in ${track.codec}; only ${copied} is copied into ${name}. Leave it out, or encode both.`,
    );
  }
  if (portion && portion.outFrame - portion.inFrame + 1 < facts.frameCount) {
    yield cannot('portion', 'A copy can begin at keyframes only; take the whole programme, or encode the portion.');
  }
  if (picture.crop || picture.deinterlace || picture.fit) {
    yield cannot(
      'picture',
      'A copied picture keeps its frames; take out crop, deinterlacing and frame size, or encode it.',
    );
  }
}

/** How a master is copied, once nothing stands in the way. */
export function planCopy(
  facts: ProgrammeFacts,
  source: VideoFacts,
  clock: FrameClock,
  withSound: boolean,
): readonly (PictureStream | SoundStream)[] {
  const path = planPicture({
    facts,
    video: source,
    clock,
    frames: { inFrame: 0, frameCount: facts.frameCount },
    size: { width: facts.width, height: facts.height },
    preparation: AS_IT_IS,
  });
  const picture: PictureStream = {
    ...path,
    kind: 'picture',
    do: { kind: 'copy', codec: requireVideoCodec(source.codec) },
    chain: [],
  };
  return withSound ? [picture, ...copySounds(facts)] : [picture];
}

function copySounds({ audio: [track] }: ProgrammeFacts): SoundStream[] {
  if (!track) return [];
  return [
    {
      kind: 'sound',
      from: { streamIndex: track.index },
      do: { kind: 'copy', codec: requireSoundCodec(track.codec) },
      chain: [],
      out: {
        sampleRate: track.sampleRate,
        samples: Math.round(track.durationSeconds * track.sampleRate),
        channels: null,
      },
    },
  ];
}

/** Frames from keyframe to keyframe in a copy, for what its index takes. */
export function copiedKeyframeInterval({ keyframeDistance }: VideoFacts, frameCount: number): number {
  return Math.max(1, keyframeDistance?.most ?? frameCount);
}

/** A copy weighs what its streams weigh. */
export function budgetCopy(
  facts: ProgrammeFacts,
  withSound: boolean,
  container: (payload: number) => Bytes,
): PlannedBudget {
  const rate = bitsPerSecond(facts.video?.bitsPerSecond ?? (facts.bytes * 8) / facts.durationSeconds);
  const [track] = facts.audio;
  const video = bytes((rate * facts.durationSeconds) / 8);
  const audio = bytes(withSound && track ? ((track.bitsPerSecond ?? 0) * track.durationSeconds) / 8 : 0);
  const tables = container(video + audio);
  return {
    cap: null,
    split: { video, audio, container: tables },
    headroom: null,
    videoRate: rate,
    expected: estimateAround(video + audio + tables, COPY_MISS, COPY_MISS),
    binds: 'source',
  };
}

/** Misfits were found before. */
function requireVideoCodec(codec: string): VideoCodec {
  if (!isVideoCodec(codec)) throw new RangeError(`${codec} is not copied.`);
  return codec;
}

function requireSoundCodec(codec: string): SoundCodec {
  if (!isSoundCodec(codec)) throw new RangeError(`${codec} is not copied.`);
  return codec;
}

function cannot(field: string, message: string): PlanProblem {
  return { code: 'copy-cannot', field, message };
}
