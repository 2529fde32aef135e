import { adviseOnPlan } from '../advice/adviseOnPlan.ts';
import { addEstimates } from '../budget/projections.ts';
import { CONTAINER } from '../container/containers.ts';
import type { Labels } from '../container/labels.ts';
import type { Container } from '../container/names.ts';
import { retimeOf } from '../picture/chain.ts';
import { partsOf } from '../picture/store.ts';
import type { Portion, ProgrammeFacts } from '../programme/facts.ts';
import {
  encodedVideo,
  formatOf,
  isCopied,
  isRatedVideo,
  keptPixelAspect,
  preparationOf,
  renditionSize,
  type Recipe,
} from '../recipe/recipe.ts';
import { resultRate } from '../recipe/frameRate.ts';
import { SOUND } from '../sound/codecs.ts';
import { countPackets } from '../sound/definition.ts';
import type { FrameClock } from '../timing/frameClock.ts';
import { bytes, type Bytes } from '../units.ts';
import { flavourOf, isRated, VIDEO, type VideoCodec } from '../video/codecs.ts';
import {
  isEncoded,
  isMastered,
  PLAN_VERSION,
  type EncodePlan,
  type PassName,
  type PicturePath,
  type PictureStream,
  type SoundStream,
  type SourceSpan,
} from './encodePlan.ts';
import { drawnCaptions } from './planCaptions.ts';
import { copiesPart, widenToCuts } from './copiedPortion.ts';
import { findMisfits, tooSmall } from './findMisfits.ts';
import { planBudget, type BudgetedPicture } from './planBudget.ts';
import { copiedKeyframeInterval, planCopiedPicture, weighPicture } from './planCopy.ts';
import { chooseKeyframeInterval, encodedAs, findLevelMisfit, hasAnalysis } from './planEncode.ts';
import { labelsOf } from './labels.ts';
import { framesOf, planPicture } from './planPicture.ts';
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

  const span = spanOf(facts, clock, portion && takenPortion(request, portion));
  const wanted = encodedVideo(recipe);
  const path = wanted && planPath(request, span);
  if (wanted && path && Math.min(path.out.size.width, path.out.size.height) < VIDEO[wanted.codec].smallestSide) {
    return { ok: false, problems: [tooSmall(path.out.size, wanted.codec)] };
  }
  const copied = isCopied(recipe.video) && facts.video ? planCopiedPicture(facts, facts.video, clock, span) : null;
  const seconds = path && retimeOf(path.chain) ? path.out.lastFrame.endSeconds : span.seconds;
  // Sound ends with its picture, which may be a little shorter or longer at another rate.
  const planned = planSounds(facts, recipe, { ...span, seconds });
  const sounds = planned.map(({ stream }) => stream);
  const keyframeInterval =
    path && wanted
      ? chooseKeyframeInterval(path, wanted)
      : facts.video
        ? copiedKeyframeInterval(facts.video, facts.frameCount)
        : 1;
  const labels = labelsOf(facts, recipe, { span, picture: path ?? copied, sounds });
  const outline = path && wanted ? { kind: 'picture' as const, do: wanted, out: path.out } : copied;
  const outcome = planBudget({
    picture: budgetedPicture(facts, recipe.video, span),
    sound: addEstimates(planned.map(({ weight }) => weight)),
    containerBytes: containerBytes(
      recipe.container,
      [...(outline ? [outline] : []), ...sounds],
      keyframeInterval,
      labels,
    ),
    sourceBytes: bytes(facts.durationSeconds > 0 ? (facts.bytes * span.seconds) / facts.durationSeconds : facts.bytes),
    durationSeconds: span.seconds,
    frameCount: path?.out.frameCount ?? span.frameCount,
    sounding,
    cameOut: request.cameOut ?? [],
    size: path?.out.size ?? null,
  });
  if (!outcome.ok) return outcome;
  const { rate, budget } = outcome;
  const light = facts.video?.light ?? null;
  const picture =
    path && wanted
      ? encodedAs(path, wanted, { keyframeInterval, rate, light, portionIns: marksOf(request, path) })
      : copied;
  const fault = picture && isEncoded(picture) ? findLevelMisfit(picture) : null;
  if (fault) return { ok: false, problems: [fault] };
  const streams = picture ? [picture, ...sounds] : sounds;
  return complete(request, {
    span,
    streams,
    container: recipe.container,
    ...(labels ? { labels } : {}),
    passes: namePasses(sounds, picture, span.frameCount === facts.frameCount),
    budget,
  });
}

/** Frames of the result at which the programme's portions begin. */
function marksOf({ clock, portionIns = [] }: PlanRequest, path: PicturePath): number[] {
  return portionIns.map(framesOf(path, clock).toResult);
}

/** A copied picture begins and ends where its keyframes let it. */
function takenPortion({ facts, recipe, cuts }: PlanRequest, portion: Portion): Portion {
  return cuts && copiesPart(facts, recipe, portion) ? widenToCuts(portion, cuts, facts) : portion;
}

function budgetedPicture(facts: ProgrammeFacts, video: Recipe['video'], span: SourceSpan): BudgetedPicture {
  if (video === null) return { kind: 'none' };
  if (isCopied(video)) {
    const isPart = span.frameCount < facts.frameCount;
    return { kind: 'copied', bytes: weighPicture(facts, isPart ? span.seconds : facts.durationSeconds), isPart };
  }
  if (isRatedVideo(video)) return { kind: 'encoded', rate: video.rate, hardware: video.hardware };
  const flavour = flavourOf(video.codec, video.flavour);
  if (!flavour) throw new RangeError(`${video.codec} has no flavour ${video.flavour}.`);
  return { kind: 'master', bitsPerPixel: flavour.bitsPerPixel(formatOf(video)) };
}

/** The plan with what a person should know about it. */
function complete(
  { facts, recipe, portion, sounding, found = null }: PlanRequest,
  plan: Omit<EncodePlan, 'version' | 'advisories'>,
): PlanOutcome {
  return {
    ok: true,
    plan: {
      version: PLAN_VERSION,
      ...plan,
      advisories: adviseOnPlan({ facts, recipe, portion, plan, sounding, found }),
    },
  };
}

function planPath({ facts, clock, recipe }: PlanRequest, frames: SourceSpan): PicturePath | null {
  const size = renditionSize(facts, recipe);
  const { video } = facts;
  const wanted = encodedVideo(recipe);
  if (!video || !size || !wanted) return null;
  const rate = resultRate(facts, recipe);
  return planPicture({
    facts,
    video,
    clock,
    frames,
    size,
    preparation: preparationOf(facts, video, recipe.picture),
    format: formatOf(wanted),
    rate,
    pixelAspect: keptPixelAspect(video, recipe.picture),
    captions: drawnCaptions(facts, recipe),
    mark: recipe.picture.mark,
  });
}

/** What the container takes by itself around a payload of so many bytes. */
function containerBytes(
  container: Container,
  streams: readonly ContainedStream[],
  keyframeInterval: number,
  labels: Labels | null,
): (payload: number) => Bytes {
  const picture = streams.find((stream) => stream.kind === 'picture');
  const sounds = streams.filter((stream) => stream.kind === 'sound');
  const { foreseeBytes, holds } = CONTAINER[container];
  const labelBytes = labels ? holds.bytesOf(labels) : 0;
  return (payloadBytes) =>
    bytes(
      labelBytes +
        foreseeBytes({
          video: picture
            ? {
                codec: VIDEO[picture.do.codec],
                frames: picture.out.frameCount,
                rate: picture.out.frameRate,
                hasSecondPicture: isRated(picture.do.codec) && partsOf(picture.out.format).alpha,
              }
            : null,
          sounds: sounds.map(({ do: work, out }) => ({
            codec: SOUND[work.codec],
            packets: countPackets(SOUND[work.codec], out.samples),
            packetsPerSecond: out.sampleRate / SOUND[work.codec].packetSamples,
            bitDepth: work.kind === 'encode' ? work.bitDepth : null,
          })),
          keyframeInterval,
          payloadBytes,
        }),
    );
}

/** As much of a stream as its container has to know. */
type ContainedStream =
  | { readonly kind: 'picture'; readonly do: { readonly codec: VideoCodec }; readonly out: PicturePath['out'] }
  | SoundStream;

function spanOf(facts: ProgrammeFacts, clock: FrameClock, portion: Portion | null): SourceSpan {
  if (!facts.video) return { inFrame: 0, frameCount: 0, startSeconds: 0, seconds: facts.durationSeconds };
  const inFrame = portion?.inFrame ?? 0;
  const frameCount = portion ? portion.outFrame - portion.inFrame + 1 : facts.frameCount;
  const startSeconds = clock.secondsOf(inFrame);
  return { inFrame, frameCount, startSeconds, seconds: clock.secondsOf(inFrame + frameCount) - startSeconds };
}

/** @param isWhole - Copies of a whole programme are made in one go. */
function namePasses(sounds: readonly SoundStream[], picture: PictureStream | null, isWhole: boolean): PassName[] {
  const isCopy = isWhole && (picture ? [picture, ...sounds] : sounds).every((stream) => stream.do.kind === 'copy');
  if (isCopy) return ['copy'];
  const passes: PassName[] = sounds.length > 0 ? ['sound'] : [];
  if (!picture) return passes;
  if (isMastered(picture)) return [...passes, 'encode'];
  if (!isEncoded(picture)) return [...passes, 'copy'];
  return [...passes, ...(hasAnalysis(picture) ? (['analysis'] as const) : []), 'encode'];
}
