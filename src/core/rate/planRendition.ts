import type { Findings } from '../analysis/conclude.ts';
import { aacPackets, foreseeMp4ContainerBytes } from '../budget/mp4Container.ts';
import { bytesAtRate } from '../budget/projections.ts';
import { AAC_KBPS_RANGE, KEYFRAME_SECONDS, type VideoCodec } from '../codec/tables.ts';
import { croppedSize } from '../geometry/preparation.ts';
import type { Portion, ProgrammeFacts } from '../programme/facts.ts';
import type { FrameClock } from '../timing/frameClock.ts';
import { toNumber } from '../timing/rational.ts';
import { bitsPerSecond, bytes, type Bytes } from '../units.ts';
import { advise } from './advise.ts';
import type { EncodePlan, PassName, PicturePlan, SoundPlan, VideoEncodePlan } from './encodePlan.ts';
import { planBudget } from './planBudget.ts';
import { planPicture } from './planPicture.ts';
import type { PlanProblem } from './planProblem.ts';
import { budgetCopy, findCopyMisfits, planCopy } from './planCopy.ts';
import {
  encodedSound,
  encodedVideo,
  isCopied,
  renditionSize,
  type EncodedSound,
  type RateChoice,
  type Recipe,
} from './recipe.ts';
import type { Sounding } from './sounding.ts';

export interface PlanRequest {
  readonly facts: ProgrammeFacts;
  readonly clock: FrameClock;
  readonly recipe: Recipe;
  /** null takes the whole programme. */
  readonly portion: Portion | null;
  /** Encoders this machine has. */
  readonly encoders: readonly VideoCodec[];
  /** Measured for exactly this codec, frame size and portion, or null. */
  readonly sounding: Sounding | null;
  /** What the analysis found of the picture's scan; null while it is not known, and the file's tag has to do. */
  readonly scan?: Findings['scan'];
}

export type PlanOutcome =
  { readonly ok: true; readonly plan: EncodePlan } | { readonly ok: false; readonly problems: readonly PlanProblem[] };

/** The smallest side the encoders take at every setting; x265 wants at least one coding block. */
const SMALLEST_SIDE = 32;

/**
 * Turns a recipe into everything needed to encode one portion of one programme, or says all that stands in the way.
 */
export function planRendition(request: PlanRequest): PlanOutcome {
  const { facts, clock, recipe, portion } = request;
  const problems = [...findMisfits(request)];
  if (problems.length > 0) return { ok: false, problems };

  const span = spanOf(facts, clock, portion);
  const size = renditionSize(facts, recipe.picture);
  const wanted = { video: encodedVideo(recipe), audio: encodedSound(recipe) };
  const copied =
    isCopied(recipe.video) && facts.video ? planCopy(facts, facts.video, clock, recipe.audio !== null) : null;
  const encoded =
    wanted.video && facts.video && size ? planPicture(facts, facts.video, size, recipe.picture, span, clock) : null;
  const picture = copied?.picture ?? encoded;
  const track = facts.audio[0];
  const sound = copied?.sound ?? (wanted.audio && track ? planSound(facts, wanted.audio, span) : null);
  const codec = copied?.video.codec ?? wanted.video?.codec;
  if (encoded && Math.min(encoded.size.width, encoded.size.height) < SMALLEST_SIDE) {
    return { ok: false, problems: [tooSmall(encoded)] };
  }
  const keyframeInterval =
    copied?.video.keyframeInterval ?? (picture ? chooseKeyframeInterval(picture, wanted.video?.rate) : 1);
  const container = (payload: number): Bytes =>
    foreseeMp4ContainerBytes({
      video: picture && codec ? { codec, frames: picture.frameCount, rate: picture.frameRate } : null,
      audio: sound && { sampleRate: sound.sampleRate, packets: aacPackets(sound.samples) },
      keyframeInterval,
      payloadBytes: payload,
    });
  const audioBytes = sound ? bytesAtRate(sound.rate, span.seconds) : bytes(0);
  if (copied) {
    const budget = budgetCopy(facts, sound !== null, container);
    const plan = { ...copied, durationSeconds: span.seconds, passes: ['copy'] as const, budget };
    return { ok: true, plan: { ...plan, advisories: advise(facts, recipe, plan, null, request.scan ?? null) } };
  }
  const outcome = planBudget({
    rate: picture ? (wanted.video?.rate ?? null) : null,
    audioBytes,
    containerBytes: container,
    durationSeconds: span.seconds,
    sounding: request.sounding,
    size: picture?.size ?? null,
  });
  if (!outcome.ok) return outcome;

  const video: VideoEncodePlan | null =
    picture && wanted.video && outcome.rate
      ? { codec: wanted.video.codec, effort: wanted.video.effort, keyframeInterval, rate: outcome.rate }
      : null;
  const plan = {
    picture,
    video,
    sound,
    durationSeconds: span.seconds,
    passes: namePasses(sound, video),
    budget: outcome.budget,
  };
  return {
    ok: true,
    plan: { ...plan, advisories: advise(facts, recipe, plan, request.sounding, request.scan ?? null) },
  };
}

/** A size is filled group of pictures by group, and one alone leaves nothing to choose from. */
const LEAST_GROUPS_OF_A_SIZE = 3;

function chooseKeyframeInterval({ frameRate, frameCount }: PicturePlan, rate: RateChoice | undefined): number {
  const usual = Math.max(1, Math.round(toNumber(frameRate) * KEYFRAME_SECONDS));
  return rate?.mode === 'size' ? Math.min(usual, Math.ceil(frameCount / LEAST_GROUPS_OF_A_SIZE)) : usual;
}

interface Span {
  readonly inFrame: number;
  readonly frameCount: number;
  readonly startSeconds: number;
  readonly seconds: number;
}

function* findMisfits({ facts, recipe, portion, encoders }: PlanRequest): Generator<PlanProblem> {
  if (recipe.video && !facts.video) {
    yield problem('no-picture', 'video', 'This programme has sound only; choose a sound-only rendition.');
  }
  if (!recipe.video && (!recipe.audio || facts.audio.length === 0)) {
    yield problem('no-sound', 'audio', 'Nothing would be left: there is neither picture nor sound to write.');
  }
  yield* findCopyMisfits(facts, recipe, portion);
  const video = encodedVideo(recipe);
  if (video && facts.video && !encoders.includes(video.codec)) {
    yield problem(
      'encoder-missing',
      'video.codec',
      `The encoder for ${video.codec === 'hevc' ? 'HEVC' : 'H.264'} is not installed on this machine; choose another codec, or install Debian’s ffmpeg package.`,
    );
  }
  const left = croppedSize(facts, recipe.picture.crop);
  if (video && facts.video && Math.min(left.width, left.height) < SMALLEST_SIDE) {
    yield problem(
      'crop-too-large',
      'picture.crop',
      `Cropping leaves ${Math.max(0, left.width)} × ${Math.max(0, left.height)} of ${facts.width} × ${facts.height}; leave at least ${SMALLEST_SIDE} pixels on each side.`,
    );
  }
  if (portion && facts.video && (portion.inFrame > portion.outFrame || portion.outFrame >= facts.frameCount)) {
    yield problem(
      'portion-outside',
      'portion',
      `The portion runs from frame ${portion.inFrame} to ${portion.outFrame}; this programme has frames 0 to ${facts.frameCount - 1}.`,
    );
  }
  if (portion && !facts.video) {
    yield problem('portion-outside', 'portion', 'A portion is counted in frames, and this programme has none.');
  }
  const audio = encodedSound(recipe);
  if (audio) {
    const [least, most] = AAC_KBPS_RANGE[audio.channels];
    if (audio.kbps < least || audio.kbps > most) {
      yield problem(
        'sound-rate-outside',
        'audio.kbps',
        `AAC ${audio.channels} takes ${least} to ${most} kb/s; ${audio.kbps} is outside that.`,
      );
    }
  }
}

function spanOf(facts: ProgrammeFacts, clock: FrameClock, portion: Portion | null): Span {
  if (!facts.video) return { inFrame: 0, frameCount: 0, startSeconds: 0, seconds: facts.durationSeconds };
  const inFrame = portion?.inFrame ?? 0;
  const frameCount = portion ? portion.outFrame - portion.inFrame + 1 : facts.frameCount;
  const startSeconds = clock.secondsOf(inFrame);
  return { inFrame, frameCount, startSeconds, seconds: clock.secondsOf(inFrame + frameCount) - startSeconds };
}

function planSound(facts: ProgrammeFacts, audio: EncodedSound, span: Span): SoundPlan {
  const track = facts.audio[0];
  return {
    streamIndex: track?.index ?? 0,
    codec: audio.codec,
    rate: bitsPerSecond(audio.kbps * 1000),
    channels: audio.channels,
    sampleRate: audio.sampleRate,
    startSeconds: (facts.video?.startSeconds ?? track?.startSeconds ?? 0) + span.startSeconds,
    samples: Math.round(span.seconds * audio.sampleRate),
  };
}

function namePasses(sound: SoundPlan | null, video: VideoEncodePlan | null): PassName[] {
  const passes: PassName[] = sound ? ['sound'] : [];
  if (!video) return passes;
  const hasAnalysis = video.rate.kind === 'fill' || (video.rate.kind === 'average' && video.rate.passes === 2);
  return [...passes, ...(hasAnalysis ? (['analysis'] as const) : []), 'encode'];
}

function tooSmall(picture: PicturePlan): PlanProblem {
  return problem(
    'frame-too-small',
    'picture.fit',
    `${picture.size.width} × ${picture.size.height} is smaller than the encoders take; allow at least ${SMALLEST_SIDE} pixels on each side.`,
  );
}

function problem(code: PlanProblem['code'], field: string, message: string): PlanProblem {
  return { code, field, message };
}
