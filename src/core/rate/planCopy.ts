import { estimateAround } from '../budget/projections.ts';
import { AUDIO_CODECS, VIDEO_CODECS, type AudioCodec, type VideoCodec } from '../codec/tables.ts';
import { AS_IT_IS } from '../geometry/preparation.ts';
import type { AudioFacts, Portion, ProgrammeFacts, VideoFacts } from '../programme/facts.ts';
import type { FrameClock } from '../timing/frameClock.ts';
import { bitsPerSecond, bytes, type Bytes } from '../units.ts';
import type { PlannedBudget, SoundPlan, VideoEncodePlan } from './encodePlan.ts';
import { planPicture } from './planPicture.ts';
import type { PlanProblem } from './planProblem.ts';
import { isCopied, type Recipe } from './recipe.ts';

/** Index tables foreseen and real differ by less than this share of a copied file. */
const COPY_MISS = 0.005;

/** Whether a master's own streams can go into an MP4 for the web as they are. */
export function canCopy({ video, audio: [track] }: ProgrammeFacts): boolean {
  return video !== null && isWritten(video.codec) && (!track || isWrittenSound(track.codec));
}

/** Everything that stands in the way of copying what a recipe says is to be copied. */
export function* findCopyMisfits(
  facts: ProgrammeFacts,
  recipe: Recipe,
  portion: Portion | null,
): Generator<PlanProblem> {
  const { video, audio, picture } = recipe;
  const [track] = facts.audio;
  if (audio && isCopied(audio) !== isCopied(video)) {
    yield cannot('audio', 'Picture and sound are copied together or not at all; copy both, or encode both.');
  }
  if (!isCopied(video) || !facts.video) return;
  if (!isWritten(facts.video.codec)) {
    yield cannot('video', `The picture is in ${facts.video.codec}; only H.264 and HEVC are copied. Encode it.`);
  }
  if (isCopied(audio) && track && !isWrittenSound(track.codec)) {
    yield cannot('audio', `The sound is in ${track.codec}; only AAC is copied. Leave it out, or encode both.`);
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
export function planCopy(facts: ProgrammeFacts, source: VideoFacts, clock: FrameClock, withSound: boolean) {
  const frames = { inFrame: 0, frameCount: facts.frameCount };
  const video: VideoEncodePlan = {
    codec: source.codec as VideoCodec,
    effort: 'fast',
    keyframeInterval: Math.max(1, source.keyframeDistance?.most ?? facts.frameCount),
    rate: { kind: 'copied' },
  };
  const [track] = facts.audio;
  return {
    picture: planPicture(facts, source, { width: facts.width, height: facts.height }, AS_IT_IS, frames, clock),
    video,
    sound: withSound && track ? planTrack(track) : null,
  };
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

function planTrack(track: AudioFacts): SoundPlan {
  return {
    streamIndex: track.index,
    codec: 'aac',
    rate: bitsPerSecond(track.bitsPerSecond ?? 0),
    channels: null,
    sampleRate: track.sampleRate,
    startSeconds: track.startSeconds,
    samples: Math.round(track.durationSeconds * track.sampleRate),
  };
}

function isWritten(codec: string): boolean {
  return VIDEO_CODECS.includes(codec as VideoCodec);
}

function isWrittenSound(codec: string): boolean {
  return AUDIO_CODECS.includes(codec as AudioCodec);
}

function cannot(field: string, message: string): PlanProblem {
  return { code: 'copy-cannot', field, message };
}
