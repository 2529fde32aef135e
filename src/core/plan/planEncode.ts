import type { LightLevels } from '../programme/facts.ts';
import { tellableLight } from '../programme/light.ts';
import { isRatedVideo, type EncodedVideo, type RatedVideo } from '../recipe/recipe.ts';
import { toNumber } from '../timing/rational.ts';
import { RATED } from '../video/codecs.ts';
import type { FineSettings } from '../video/fine.ts';
import { findLevelFault, leastLevel, type LeveledStream } from '../video/levels.ts';
import type { EncodedPicture, PicturePath, PictureRate, PictureStream } from './encodePlan.ts';
import type { PlanProblem } from './planProblem.ts';

/** What an encoder is told beside a person's wishes. */
export interface EncodedWith {
  /** Frames between keyframes at most. */
  readonly keyframeInterval: number;
  /** null for masters. */
  readonly rate: PictureRate | null;
  /** What its master says of how bright it gets. */
  readonly light: LightLevels | null;
  /** Frames of the result at which portions of the programme begin. */
  readonly portionIns: readonly number[];
}

/** How a picture that is wanted so is encoded. */
export function encodedAs(
  path: PicturePath,
  wanted: EncodedVideo,
  { keyframeInterval, rate, light, portionIns }: EncodedWith,
): PictureStream {
  if (!isRatedVideo(wanted)) {
    return { ...path, kind: 'picture', do: { kind: 'master', codec: wanted.codec, flavour: wanted.flavour } };
  }
  if (!rate) throw new Error('A picture at a rate was planned without one.');
  const { codec, effort, hardware } = wanted;
  return {
    ...path,
    kind: 'picture',
    do: {
      kind: 'encode',
      codec,
      effort,
      ...(hardware ? { hardware } : {}),
      keyframeInterval,
      rate,
      fine: fineOf(wanted),
      ...lit(path, wanted, light),
      ...marked(path, wanted, portionIns),
    },
  };
}

/** Absolute light alone is told (SMPTE ST 2086 and CTA-861.3); what was brought down is not that bright any more. */
function lit({ out }: PicturePath, { codec, hardware }: RatedVideo, light: LightLevels | null) {
  const isTold = out.colour.transfer === 'smpte2084' && RATED[codec].tellsLight && !hardware;
  const told = isTold && light && tellableLight(light);
  return told ? { light: told } : {};
}

function marked({ out }: PicturePath, { keyframesAtPortions }: RatedVideo, portionIns: readonly number[]) {
  const isInside = (frame: number) => frame > 0 && frame < out.frameCount;
  const ins = [...new Set(portionIns.filter(isInside))].sort((a, b) => a - b);
  // Encoders leave out one that comes right after another: portions that begin on neighbouring frames share one.
  const keyframesAt = keyframesAtPortions ? ins.filter((frame) => !ins.includes(frame - 1)) : [];
  return keyframesAt.length > 0 ? { keyframesAt } : {};
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
export function findLevelMisfit(picture: EncodedPicture): PlanProblem | null {
  const { codec, fine } = picture.do;
  if (fine.level === null) return null;
  const { levels } = RATED[codec];
  const stream = leveledStream(picture);
  const message = findLevelFault(levels, fine.level, fine.tier ?? 'main', stream);
  const remedy = `Take ${leastLevel(levels, stream)}, or let it be chosen.`;
  return message === null ? null : { code: 'level-too-small', field: 'video.level', message: `${message} ${remedy}` };
}

/** A picture as levels see it. */
export function leveledStream({ out, do: { codec, effort, rate } }: EncodedPicture): LeveledStream {
  const average = rate.kind === 'quality' ? null : rate.rate;
  const bits = ('buffer' in rate ? rate.buffer?.highest : null) ?? average;
  return { size: out.size, rate: out.frameRate, bits, heldFrames: RATED[codec].heldFrames[effort] };
}

/** A size is filled group of pictures by group, and one alone leaves nothing to choose from. */
const LEAST_GROUPS_OF_A_SIZE = 3;

/** Where groups are all there is to choose from, there are more of them, as long as none is very short. */
const GROUPS_TO_CHOOSE_FROM = 12;
const SHORTEST_CHOSEN_SECONDS = 1;

/** Frames between keyframes at most. */
export function chooseKeyframeInterval({ out }: PicturePath, video: EncodedVideo): number {
  // Masters are keyframes throughout.
  if (!isRatedVideo(video)) return 1;
  const inFrames = (seconds: number) => Math.max(1, Math.round(toNumber(out.frameRate) * seconds));
  const usual = 'frames' in video.keyframes ? video.keyframes.frames : inFrames(video.keyframes.seconds);
  if (video.rate.mode !== 'size' && video.rate.mode !== 'share') return usual;
  const most = Math.min(usual, Math.ceil(out.frameCount / LEAST_GROUPS_OF_A_SIZE));
  const enough = Math.ceil(out.frameCount / GROUPS_TO_CHOOSE_FROM);
  return Math.min(most, Math.max(enough, inFrames(SHORTEST_CHOSEN_SECONDS)));
}

/** Whether the picture is looked at once before it is encoded. */
export function hasAnalysis({ do: { codec, rate } }: EncodedPicture): boolean {
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
