import { CONTAINER } from '../container/containers.ts';
import { LARGEST_SIDE, shapeOf, type FrameSize } from '../geometry/frameSize.ts';
import { atMostFrame, framedBy, frameOf, ownFrame, shownOf } from '../geometry/framing.ts';
import type { ProgrammeFacts, VideoFacts } from '../programme/facts.ts';
import { withContainer, withHardware, withoutPicture, withSoundCodec, withVideoCodec } from '../recipe/changeRecipe.ts';
import { resultRate } from '../recipe/frameRate.ts';
import { changesOf } from '../recipe/recipeChanges.ts';
import { keepWhole } from '../recipe/suitRecipe.ts';
import {
  encodedSound,
  encodedVideo,
  isCopied,
  isRatedVideo,
  keptPixelAspect,
  renditionSize,
  ratedVideo,
  STARTING_RECIPE,
  type RateChoice,
  type RatedVideo,
  type Recipe,
} from '../recipe/recipe.ts';
import { SOUND } from '../sound/codecs.ts';
import { kbpsRange, LAYOUT_CHANNELS, nominalLayout } from '../sound/definition.ts';
import { LUFS_RANGE, nameLevel, TRUE_PEAK_RANGE, USUAL_TRUE_PEAK } from '../sound/loudness.ts';
import { RATED } from '../video/codecs.ts';
import { isWithinRate, nameFrameRate } from '../timing/frameRate.ts';
import { toNumber } from '../timing/rational.ts';
import type { Brief } from './brief.ts';
import { isShape } from './limits.ts';

/** An order that was bent to a brief. */
export interface Bent {
  readonly recipe: Recipe;
  /** What of it was bent, in words. */
  readonly bent: readonly string[];
}

type Bend = (recipe: Recipe, brief: Brief, facts: ProgrammeFacts) => Recipe;

/**
 * Bends an order to what a receiver asks for, as far as settings can; what no setting can change is told by
 * `findUnsuited`.
 *
 * @param facts - Of the programme: its frame size and rate decide what is over a limit.
 */
export function bendToBrief(recipe: Recipe, brief: Brief, facts: ProgrammeFacts): Bent {
  const made = BENDS.reduce((one, bend) => bend(one, brief, facts), recipe);
  return { recipe: made, bent: changesOf(recipe, made) };
}

/** A sound-only receiver gets no picture; one that wants a picture gets one where the programme has it. */
const picture: Bend = (recipe, brief, facts) => {
  if (brief.picture === false) return recipe.video ? withoutPicture(recipe) : recipe;
  if (brief.picture !== true || recipe.video || !facts.video) return recipe;
  return withContainer({ ...recipe, video: STARTING_RECIPE.video }, STARTING_RECIPE.container);
};

const container: Bend = (recipe, { containers }) => {
  if (!containers || containers.includes(recipe.container)) return recipe;
  const wanted = containers.find((one) => (CONTAINER[one].withPicture !== null) === (recipe.video !== null));
  return wanted ? withContainer(recipe, wanted) : recipe;
};

/** To a codec that loses nothing: then the whole picture is kept. */
const codec: Bend = (recipe, { codecs }, facts) => {
  const video = encodedVideo(recipe);
  if (!codecs || !recipe.video || (video && codecs.includes(video.codec))) return recipe;
  const [wanted] = codecs;
  return wanted ? keepWhole(withVideoCodec(recipe, wanted), facts) : recipe;
};

const pixels: Bend = (recipe, { plainPixels }) => {
  const video = ratedVideo(recipe);
  if (!plainPixels || !video) return recipe;
  const square = { ...recipe, picture: { ...recipe.picture, pixelAspect: 'square' as const } };
  return withVideo(square, { ...video, bitDepth: 8, chroma: '4:2:0' });
};

/** Another shape is cut out of the middle, as large as the picture has it; one that stands whole in a frame stays whole. */
const shape: Bend = (recipe, { shape: wanted, maxWidth, maxHeight }, facts) => {
  const { video } = facts;
  if (!wanted || !video || !encodedVideo(recipe)) return recipe;
  if (isShape(shapeOfResult(facts, video, recipe), wanted)) return recipe;
  const { pad } = recipe.picture;
  const frame = ownFrame(shownOf(facts, video.pixelAspect, recipe.picture), wanted, pad !== null);
  const framed = framedBy(recipe.picture, pad ? { pad: { ...pad, ...frame } } : { fill: frame });
  const square = { ...framed, pixelAspect: 'square' as const };
  return { ...recipe, picture: atMostFrame(square, boxOf(maxWidth, maxHeight)) };
};

function boxOf(maxWidth: number | null, maxHeight: number | null): FrameSize {
  return { width: maxWidth ?? LARGEST_SIDE, height: maxHeight ?? LARGEST_SIDE };
}

/** Width to height of what comes out, as it is shown. */
function shapeOfResult(facts: ProgrammeFacts, video: VideoFacts, recipe: Recipe): number {
  const size = encodedVideo(recipe) ? renditionSize(facts, recipe) : null;
  if (!size) return shapeOf(facts, video.pixelAspect);
  return shapeOf(size, keptPixelAspect(video, recipe.picture));
}

const frameSize: Bend = (recipe, { maxWidth, maxHeight }, facts) => {
  if (!facts.video || !recipe.video || isCopied(recipe.video) || (maxWidth === null && maxHeight === null)) {
    return recipe;
  }
  const size = renditionSize(facts, recipe);
  if (!size) return recipe;
  if (size.width <= (maxWidth ?? Infinity) && size.height <= (maxHeight ?? Infinity)) return recipe;
  if (frameOf(recipe.picture)) {
    return { ...recipe, picture: atMostFrame(recipe.picture, boxOf(maxWidth, maxHeight)) };
  }
  const least = (one: number | undefined, other: number | null) => Math.min(one ?? Infinity, other ?? Infinity);
  const width = least(recipe.picture.fit?.width, maxWidth);
  const height = least(recipe.picture.fit?.height, maxHeight);
  const fit = {
    ...(Number.isFinite(width) ? { width } : {}),
    ...(Number.isFinite(height) ? { height } : {}),
  };
  return { ...recipe, picture: { ...recipe.picture, fit } };
};

/** Too many frames a second become every second of them, or fewer. */
const frameRate: Bend = (recipe, { maxFrameRate }, facts) => {
  if (!maxFrameRate || !facts.video || !encodedVideo(recipe)) return recipe;
  const rate = resultRate(facts, recipe) ?? facts.frameRate;
  if (isWithinRate(toNumber(rate), maxFrameRate)) return recipe;
  return { ...recipe, time: { frameRate: { atMost: maxFrameRate } } };
};

/** A cap in bytes is filled; without one the picture is held to the ceilings of rate: in software, since a device comes only near to them. */
const size: Bend = (recipe, { maxBytes, maxTotalKbps, maxPictureKbps }) => {
  const asked = ratedVideo(recipe);
  if (!asked) return recipe;
  const video = withHardware(asked, false);
  if (maxBytes !== null) {
    const isUnder = video.rate.mode === 'size' && video.rate.bytes <= maxBytes;
    return isUnder ? recipe : withVideo(recipe, { ...video, rate: { mode: 'size', bytes: maxBytes } });
  }
  const sound = encodedSound(recipe)?.kbps ?? 0;
  const ofTotal = maxTotalKbps === null ? Infinity : maxTotalKbps * SAFE_SHARE - sound;
  const most = Math.min(maxPictureKbps ?? Infinity, ofTotal);
  return Number.isFinite(most) ? withVideo(recipe, { ...video, rate: heldTo(video, Math.floor(most)) }) : recipe;
};

/** Of a ceiling: the container and the encoder's inaccuracy want the rest (two passes miss by 7 % at most, measured). */
const SAFE_SHARE = 0.93;

function heldTo({ rate, codec: name }: RatedVideo, kbps: number): RateChoice {
  const { bufferFault, averagePasses } = RATED[name];
  const safe = Math.floor(kbps * SAFE_SHARE);
  switch (rate.mode) {
    case 'quality':
      // A codec that keeps no highest rate averages what is allowed.
      if (bufferFault !== '') return { mode: 'average', kbps: safe, passes: averagePasses.at(-1) ?? 2 };
      return rate.maxKbps !== null && rate.maxKbps <= kbps ? rate : { ...rate, maxKbps: kbps };
    case 'average':
    case 'variable':
      return { ...rate, kbps: Math.min(rate.kbps, safe) };
    case 'constant':
      return rate.kbps <= kbps ? rate : { ...rate, kbps };
    case 'size':
    case 'share':
      return rate;
  }
}

const keyframes: Bend = (recipe, { maxKeyframeSeconds }, facts) => {
  const video = ratedVideo(recipe);
  if (!video || maxKeyframeSeconds === null) return recipe;
  const rate = toNumber(facts.frameRate);
  const seconds = 'frames' in video.keyframes ? video.keyframes.frames / rate : video.keyframes.seconds;
  return seconds <= maxKeyframeSeconds
    ? recipe
    : withVideo(recipe, { ...video, keyframes: { seconds: maxKeyframeSeconds } });
};

const soundCodec: Bend = (recipe, { soundCodecs }) => {
  const audio = encodedSound(recipe);
  if (!soundCodecs || !recipe.audio || (audio && soundCodecs.includes(audio.codec))) return recipe;
  const wanted = soundCodecs.find((one) => SOUND[one].containers.includes(recipe.container));
  return wanted ? withSoundCodec(recipe, wanted) : recipe;
};

/** Of a cap that sound may take: the picture wants the rest (common practice, no source). */
const MOST_SOUND_OF_A_CAP = 0.25;

const soundRate: Bend = (recipe, { maxSoundKbps, maxChannels, maxBytes }, facts) => {
  const audio = encodedSound(recipe);
  if (!audio) return recipe;
  const isWide = maxChannels !== null && (audio.channels === 'source' || LAYOUT_CHANNELS[audio.channels] > maxChannels);
  const channels = isWide ? (maxChannels === 1 ? 'mono' : 'stereo') : audio.channels;
  const { rate } = SOUND[audio.codec];
  if (rate.kind === 'whole' || audio.kbps === null) return { ...recipe, audio: { ...audio, channels } };
  const [least, most] = kbpsRange(rate, nominalLayout(channels));
  const ofCap =
    maxBytes === null || !recipe.video ? Infinity : (maxBytes * 8 * MOST_SOUND_OF_A_CAP) / facts.durationSeconds;
  const kbps = Math.max(least, Math.min(audio.kbps, most, maxSoundKbps ?? Infinity, Math.floor(ofCap / 1000)));
  return { ...recipe, audio: { ...audio, channels, kbps } };
};

/** What is copied stays as loud as it is. */
const loudness: Bend = (recipe, { loudness: wanted }) => {
  const audio = encodedSound(recipe);
  if (!audio || !wanted) return recipe;
  const within = (value: number, [least, most]: readonly [number, number]) => Math.min(most, Math.max(least, value));
  const level = {
    lufs: within(wanted.lufs, LUFS_RANGE),
    truePeakDbtp: within(wanted.maxTruePeakDbtp ?? USUAL_TRUE_PEAK, TRUE_PEAK_RANGE),
  };
  return { ...recipe, audio: { ...audio, loudness: level, gainDb: 0 } };
};

function withVideo(recipe: Recipe, video: RatedVideo): Recipe {
  return { ...recipe, video };
}

/** Container before codecs, since it carries them; sound before the size that it takes a share of. */
const BENDS: readonly Bend[] = [
  ...[picture, container, codec, pixels, shape, frameSize, frameRate, keyframes],
  ...[soundCodec, soundRate, loudness, size],
];

/** What of a programme a receiver does not take, and no setting changes: each with its figure. */
export function findUnsuited(brief: Brief, facts: ProgrammeFacts, recipe: Recipe, seconds: number): string[] {
  const { minSeconds, maxSeconds, maxFrameRate } = brief;
  const said: string[] = [];
  if (brief.picture === true && !facts.video) said.push('It asks for a picture, and this programme has sound only.');
  if (brief.picture === false && facts.audio.length === 0) said.push('It asks for sound, and this programme has none.');
  if (maxSeconds !== null && seconds > maxSeconds) {
    said.push(`It takes at most ${maxSeconds} s, and this is ${seconds.toFixed(1)} s long; mark a portion.`);
  }
  if (minSeconds !== null && seconds < minSeconds) {
    said.push(`It takes no less than ${minSeconds} s, and this is ${seconds.toFixed(1)} s long.`);
  }
  const rate = (encodedVideo(recipe) && resultRate(facts, recipe)) ?? facts.frameRate;
  if (facts.video && recipe.video && maxFrameRate && !isWithinRate(toNumber(rate), maxFrameRate)) {
    said.push(`It takes at most ${nameFrameRate(maxFrameRate)} fps, and this has ${nameFrameRate(rate)}.`);
  }
  if (facts.video && recipe.video && brief.shape) {
    const found = shapeOfResult(facts, facts.video, recipe);
    const remedy = isCopied(recipe.video) ? 'encode it, so that it can be cut' : 'cut it to that shape';
    if (!isShape(found, brief.shape)) {
      const { num, den } = brief.shape;
      said.push(`It asks for ${num}:${den}, and this picture is ${found.toFixed(2)} times as wide as high; ${remedy}.`);
    }
  }
  if (brief.loudness && isCopied(recipe.audio)) {
    said.push(
      `It asks for ${nameLevel(brief.loudness.lufs)} LUFS, and copied sound stays as loud as it is; encode it.`,
    );
  }
  const video = encodedVideo(recipe);
  if (brief.maxPictureKbps !== null && brief.maxBytes === null && video && !isRatedVideo(video)) {
    said.push('Its ceiling of rate cannot be promised with a codec that has no rate.');
  }
  return said;
}
