import { adviseOnPlan } from '../advice/adviseOnPlan.ts';
import { addEstimates } from '../budget/projections.ts';
import { CONTAINER } from '../container/containers.ts';
import type { Container } from '../container/names.ts';
import type { Portion, ProgrammeFacts } from '../programme/facts.ts';
import {
  encodedVideo,
  formatOf,
  isCopied,
  isRatedVideo,
  renditionSize,
  type EncodedVideo,
  type RatedVideo,
  type Recipe,
} from '../recipe/recipe.ts';
import { SOUND } from '../sound/codecs.ts';
import { countPackets } from '../sound/definition.ts';
import type { FrameClock } from '../timing/frameClock.ts';
import { toNumber } from '../timing/rational.ts';
import { bytes, type Bytes } from '../units.ts';
import { flavourOf, RATED, VIDEO, type VideoCodec } from '../video/codecs.ts';
import type { FineSettings } from '../video/fine.ts';
import { findLevelFault, leastLevel } from '../video/levels.ts';
import {
  isEncoded,
  isMastered,
  PLAN_VERSION,
  type EncodedPicture,
  type EncodePlan,
  type PassName,
  type PictureRate,
  type PicturePath,
  type PictureStream,
  type SoundStream,
  type SourceSpan,
} from './encodePlan.ts';
import { findMisfits, tooSmall } from './findMisfits.ts';
import { planBudget, type BudgetedPicture } from './planBudget.ts';
import { copiedKeyframeInterval, planCopiedPicture, weighPicture } from './planCopy.ts';
import { planPicture } from './planPicture.ts';
import type { PlanProblem } from './planProblem.ts';
import type { PlanRequest } from './planRequest.ts';
import { planSounds } from './planSounds.ts';

export type PlanOutcome =
  { readonly ok: true; readonly plan: EncodePlan } | { readonly ok: false; readonly problems: readonly PlanProblem[] };

/**
 * Turns a recipe into everything needed to encode one portion of one programme, or says all that stands in the way.
 */
export function planRendition(request: PlanRequest): PlanOutcome {
  const { facts, clock, recipe, portion, sounding } = request;
  const problems = [...findMisfits(request)];
  if (problems.length > 0) return { ok: false, problems };

  const span = spanOf(facts, clock, portion);
  const wanted = encodedVideo(recipe);
  const path = wanted && planPath(request, span);
  if (wanted && path && Math.min(path.out.size.width, path.out.size.height) < VIDEO[wanted.codec].smallestSide) {
    return { ok: false, problems: [tooSmall(path.out.size, VIDEO[wanted.codec].smallestSide)] };
  }
  const copied = isCopied(recipe.video) && facts.video ? planCopiedPicture(facts, facts.video, clock) : null;
  const planned = planSounds(facts, recipe, span);
  const sounds = planned.map(({ stream }) => stream);
  const keyframeInterval =
    path && wanted
      ? chooseKeyframeInterval(path, wanted)
      : facts.video
        ? copiedKeyframeInterval(facts.video, facts.frameCount)
        : 1;
  const outline = path && wanted ? { kind: 'picture' as const, do: wanted, out: path.out } : copied;
  const outcome = planBudget({
    picture: budgetedPicture(facts, recipe.video),
    sound: addEstimates(planned.map(({ weight }) => weight)),
    containerBytes: containerBytes(recipe.container, [...(outline ? [outline] : []), ...sounds], keyframeInterval),
    sourceBytes: bytes(facts.durationSeconds > 0 ? (facts.bytes * span.seconds) / facts.durationSeconds : facts.bytes),
    durationSeconds: span.seconds,
    frameCount: span.frameCount,
    sounding,
    size: path?.out.size ?? null,
  });
  if (!outcome.ok) return outcome;
  const { rate, budget } = outcome;
  const picture = path && wanted ? encodedAs(path, wanted, keyframeInterval, rate) : copied;
  const fault = picture && isEncoded(picture) ? findLevelMisfit(picture) : null;
  if (fault) return { ok: false, problems: [fault] };
  const streams = picture ? [picture, ...sounds] : sounds;
  return complete(request, {
    span,
    streams,
    container: recipe.container,
    passes: namePasses(sounds, picture),
    budget,
  });
}

function encodedAs(
  path: PicturePath,
  wanted: EncodedVideo,
  keyframeInterval: number,
  rate: PictureRate | null,
): PictureStream {
  if (!isRatedVideo(wanted)) {
    return { ...path, kind: 'picture', do: { kind: 'master', codec: wanted.codec, flavour: wanted.flavour } };
  }
  if (!rate) throw new Error('A picture at a rate was planned without one.');
  const { codec, effort } = wanted;
  return {
    ...path,
    kind: 'picture',
    do: { kind: 'encode', codec, effort, keyframeInterval, rate, fine: fineOf(wanted) },
  };
}

function fineOf(wanted: RatedVideo): FineSettings {
  const { tune, profile, level, tier, reordering, closedGroups, keyframesAtScenes } = wanted;
  // A profile may forbid it as well.
  const keepsOrder =
    !reordering || (profile !== null && RATED[wanted.codec].fine.profiles[profile]?.reorders === false);
  const bFrames = keepsOrder ? 0 : wanted.bFrames;
  return { tune, profile, level, tier, bFrames, closedGroups, keyframesAtScenes };
}

/** A level that was fixed must be one that this picture keeps to. */
function findLevelMisfit({ out, do: { codec, effort, rate, fine } }: EncodedPicture): PlanProblem | null {
  if (fine.level === null) return null;
  const { levels, heldFrames } = RATED[codec];
  const average = rate.kind === 'quality' ? null : rate.rate;
  const bits = ('buffer' in rate ? rate.buffer?.highest : null) ?? average;
  const stream = { size: out.size, rate: out.frameRate, bits, heldFrames: heldFrames[effort] };
  const message = findLevelFault(levels, fine.level, fine.tier ?? 'main', stream);
  const remedy = `Take ${leastLevel(levels, stream)}, or let it be chosen.`;
  return message === null ? null : { code: 'level-too-small', field: 'video.level', message: `${message} ${remedy}` };
}

function budgetedPicture(facts: ProgrammeFacts, video: Recipe['video']): BudgetedPicture {
  if (video === null) return { kind: 'none' };
  if (isCopied(video)) return { kind: 'copied', bytes: weighPicture(facts) };
  if (isRatedVideo(video)) return { kind: 'encoded', rate: video.rate };
  const flavour = flavourOf(video.codec, video.flavour);
  if (!flavour) throw new RangeError(`${video.codec} has no flavour ${video.flavour}.`);
  return { kind: 'master', bitsPerPixel: flavour.bitsPerPixel };
}

/** The plan with what a person should know about it. */
function complete(
  { facts, recipe, sounding, scan = null }: PlanRequest,
  plan: Omit<EncodePlan, 'version' | 'advisories'>,
): PlanOutcome {
  return {
    ok: true,
    plan: { version: PLAN_VERSION, ...plan, advisories: adviseOnPlan({ facts, recipe, plan, sounding, scan }) },
  };
}

function planPath({ facts, clock, recipe }: PlanRequest, frames: SourceSpan): PicturePath | null {
  const size = renditionSize(facts, recipe.picture);
  const { video } = facts;
  const wanted = encodedVideo(recipe);
  if (!video || !size || !wanted) return null;
  return planPicture({ facts, video, clock, frames, size, preparation: recipe.picture, format: formatOf(wanted) });
}

/** What the container takes by itself around a payload of so many bytes. */
function containerBytes(
  container: Container,
  streams: readonly ContainedStream[],
  keyframeInterval: number,
): (payload: number) => Bytes {
  const picture = streams.find((stream) => stream.kind === 'picture');
  const sound = streams.find((stream) => stream.kind === 'sound');
  const soundCodec = sound && SOUND[sound.do.codec];
  const bitDepth = sound?.do.kind === 'encode' ? sound.do.bitDepth : null;
  return (payloadBytes) =>
    CONTAINER[container].foreseeBytes({
      video: picture
        ? { codec: VIDEO[picture.do.codec], frames: picture.out.frameCount, rate: picture.out.frameRate }
        : null,
      audio:
        sound && soundCodec
          ? {
              codec: soundCodec,
              packets: countPackets(soundCodec, sound.out.samples),
              packetsPerSecond: sound.out.sampleRate / soundCodec.packetSamples,
              bitDepth,
            }
          : null,
      keyframeInterval,
      payloadBytes,
    });
}

/** As much of a stream as its container has to know. */
type ContainedStream =
  | { readonly kind: 'picture'; readonly do: { readonly codec: VideoCodec }; readonly out: PicturePath['out'] }
  | SoundStream;

/** A size is filled group of pictures by group, and one alone leaves nothing to choose from. */
const LEAST_GROUPS_OF_A_SIZE = 3;

/** Where groups are all there is to choose from, there are more of them, as long as none is very short. */
const GROUPS_TO_CHOOSE_FROM = 12;
const SHORTEST_CHOSEN_SECONDS = 1;

function chooseKeyframeInterval({ out }: PicturePath, video: EncodedVideo): number {
  // Masters are keyframes throughout.
  if (!isRatedVideo(video)) return 1;
  const inFrames = (seconds: number) => Math.max(1, Math.round(toNumber(out.frameRate) * seconds));
  const usual = 'frames' in video.keyframes ? video.keyframes.frames : inFrames(video.keyframes.seconds);
  if (video.rate.mode !== 'size' && video.rate.mode !== 'share') return usual;
  const most = Math.min(usual, Math.ceil(out.frameCount / LEAST_GROUPS_OF_A_SIZE));
  const enough = Math.ceil(out.frameCount / GROUPS_TO_CHOOSE_FROM);
  return Math.min(most, Math.max(enough, inFrames(SHORTEST_CHOSEN_SECONDS)));
}

function spanOf(facts: ProgrammeFacts, clock: FrameClock, portion: Portion | null): SourceSpan {
  if (!facts.video) return { inFrame: 0, frameCount: 0, startSeconds: 0, seconds: facts.durationSeconds };
  const inFrame = portion?.inFrame ?? 0;
  const frameCount = portion ? portion.outFrame - portion.inFrame + 1 : facts.frameCount;
  const startSeconds = clock.secondsOf(inFrame);
  return { inFrame, frameCount, startSeconds, seconds: clock.secondsOf(inFrame + frameCount) - startSeconds };
}

function namePasses(sounds: readonly SoundStream[], picture: PictureStream | null): PassName[] {
  const isCopy = (picture ? [picture, ...sounds] : sounds).every((stream) => stream.do.kind === 'copy');
  if (isCopy) return ['copy'];
  const passes: PassName[] = sounds.length > 0 ? ['sound'] : [];
  if (!picture) return passes;
  if (isMastered(picture)) return [...passes, 'encode'];
  if (!isEncoded(picture)) return [...passes, 'copy'];
  return [...passes, ...(hasAnalysis(picture) ? (['analysis'] as const) : []), 'encode'];
}

/** Whether the picture is looked at once before it is encoded. */
function hasAnalysis({ do: { codec, rate } }: EncodedPicture): boolean {
  const { quality } = RATED[codec];
  switch (rate.kind) {
    case 'quality':
    case 'fill':
      return quality.passes === 2;
    case 'average':
      return rate.passes === 2;
    case 'constant':
      return false;
  }
}
