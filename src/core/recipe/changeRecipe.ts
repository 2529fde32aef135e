import { CONTAINER } from '../container/containers.ts';
import type { Container } from '../container/names.ts';
import { SOUND, soundCodecsOf, type SoundCodec } from '../sound/codecs.ts';
import { partsOf, type PixelFormat } from '../picture/store.ts';
import { kbpsRange, nominalLayout, SOUND_DEPTHS, usualKbps } from '../sound/definition.ts';
import {
  flavourOf,
  isRated,
  MASTERS,
  RATED,
  VIDEO,
  videoCodecsOf,
  type MasterCodec,
  type RatedCodec,
  type VideoCodec,
} from '../video/codecs.ts';
import type { QualityScale } from '../video/definition.ts';
import {
  atQuality,
  encodedSound,
  encodedVideo,
  formatOf,
  ratedVideo,
  STARTING_RECIPE,
  type EncodedSound,
  type EncodedVideo,
  type MasterVideo,
  type RateChoice,
  type RatedVideo,
  type Recipe,
} from './recipe.ts';
import { AS_ENCODER_LIKES } from '../video/fine.ts';
import { HARDWARE_FORMAT } from '../video/hardware.ts';

/**
 * The recipe in another picture codec: the usual quality of one becomes the usual of the other, what was chosen stays
 * where the codec takes it, and a container that does not carry it gives way to one that does.
 */
export function withVideoCodec(recipe: Recipe, codec: VideoCodec): Recipe {
  const { containers } = VIDEO[codec];
  const container = containers.includes(recipe.container) ? recipe.container : containers[0]!;
  const video = isRated(codec) ? asRated(recipe, codec) : asMaster(recipe, codec);
  return withFittingSound({ ...recipe, container, video });
}

function asRated(recipe: Recipe, codec: RatedCodec): RatedVideo {
  const before = ratedVideo(recipe) ?? STARTING_RECIPE.video;
  // Of another codec the machine may have no encoder in hardware.
  return fitFine({ ...before, codec, hardware: false, rate: fitRate(before.rate, before.codec, codec) });
}

/** A picture made by hardware, with everything but its rate left to the encoder; or by software again, at a rate it holds. */
export function withHardware(video: RatedVideo, hardware: boolean): RatedVideo {
  if (!hardware) {
    return video.hardware ? { ...video, hardware, rate: fitRate(video.rate, video.codec, video.codec) } : video;
  }
  const rate = { mode: 'average', kbps: 'kbps' in video.rate ? video.rate.kbps : STARTING_KBPS, passes: 1 } as const;
  const asItLikes = { ...AS_ENCODER_LIKES, reordering: true, keyframesAtPortions: false };
  return { ...video, ...asItLikes, ...splitFormat(HARDWARE_FORMAT), hardware, rate };
}

/** What the codec's encoder does not take is left to it. */
function fitFine(video: RatedVideo): RatedVideo {
  const { fine, formats } = RATED[video.codec];
  const [usual] = formats;
  const stored = formats.includes(formatOf(video)) || !usual ? {} : splitFormat(usual);
  return {
    ...video,
    ...stored,
    tune: video.tune && video.tune in fine.tunes ? video.tune : null,
    profile: null,
    level: null,
    tier: null,
    reordering: fine.bFrames ? video.reordering : true,
    bFrames: fine.bFrames ? video.bFrames : null,
    closedGroups: fine.closedGroups ? video.closedGroups : null,
    keyframesAtScenes: fine.scenes ? video.keyframesAtScenes : true,
    keyframesAtPortions: fine.marks && video.keyframesAtPortions,
  };
}

function asMaster(recipe: Recipe, codec: MasterCodec): MasterVideo {
  const { flavours } = MASTERS[codec];
  const { key, formats } = flavourOf(codec, USUAL_FLAVOUR) ?? flavours[0]!;
  const before = encodedVideo(recipe);
  const kept = before && formats.includes(formatOf(before)) ? formatOf(before) : formats[0]!;
  return { codec, flavour: key, ...splitFormat(kept) };
}

/** For editing (common practice, no source). */
export const USUAL_FLAVOUR = 'standard';

/** The recipe in another flavour of a codec for masters, in pixels it takes. */
export function withFlavour(recipe: Recipe, video: MasterVideo, flavour: string): Recipe {
  const formats = flavourOf(video.codec, flavour)?.formats ?? [];
  const format = formats.includes(formatOf(video)) ? formatOf(video) : formats[0]!;
  return { ...recipe, video: { ...video, flavour, ...splitFormat(format) } };
}

/** A format as recipes write it. */
export function splitFormat(format: PixelFormat): Pick<EncodedVideo, 'bitDepth' | 'chroma' | 'alpha'> {
  const { depth, chroma, alpha } = partsOf(format);
  return { bitDepth: depth, chroma, alpha };
}

/** The recipe in another container: codecs it does not carry give way to the first that it does. */
export function withContainer(recipe: Recipe, container: Container): Recipe {
  if (!CONTAINER[container].withPicture) {
    const audio = recipe.audio ?? STARTING_RECIPE.audio;
    return withFittingSound({ ...recipe, container, video: null, audio });
  }
  const video = encodedVideo(recipe);
  const codec = videoCodecsOf(container)[0];
  if (!video || VIDEO[video.codec].containers.includes(container) || !codec) {
    return withFittingSound({ ...recipe, container });
  }
  return withVideoCodec({ ...recipe, container }, codec);
}

/** The recipe of sound alone, in the container of sound that goes with the one it had. */
export function withoutPicture(recipe: Recipe): Recipe {
  return withFittingSound({ ...recipe, video: null });
}

/** The recipe in another sound codec, at the nearest rate and sample rate that it takes. */
export function withSoundCodec(recipe: Recipe, codec: SoundCodec): Recipe {
  const audio = encodedSound(recipe) ?? STARTING_RECIPE.audio;
  return { ...recipe, audio: fitSound({ ...audio, codec }) };
}

/** The recipe with a sound codec that its container carries. */
export function withFittingSound(recipe: Recipe): Recipe {
  const audio = encodedSound(recipe);
  const codec = soundCodecsOf(recipe.container)[0];
  if (!audio || SOUND[audio.codec].containers.includes(recipe.container) || !codec) return recipe;
  return withSoundCodec(recipe, codec);
}

function fitSound(audio: EncodedSound): EncodedSound {
  const { rate, sampleRates } = SOUND[audio.codec];
  const sampleRate = sampleRates.includes(audio.sampleRate) ? audio.sampleRate : Math.max(...sampleRates);
  if (rate.kind === 'whole') return { ...audio, sampleRate, kbps: null, bitDepth: audio.bitDepth ?? SOUND_DEPTHS[0] };
  const layout = nominalLayout(audio.channels);
  const [least, most] = kbpsRange(rate, layout);
  const kbps = Math.min(most, Math.max(least, audio.kbps ?? usualKbps(rate, layout)));
  return { ...audio, sampleRate, kbps, bitDepth: null };
}

/** Rates that start a fresh choice of mode (common practice, no source: 720p for the web at 3 to 5 Mb/s). */
const STARTING_KBPS = 3000;

/** A highest rate is begun at so many times the average (common practice, no source). */
const STARTING_PEAK = 2;

/**
 * The rate of a mode that was just taken: what was chosen in another stays where it means the same.
 *
 * @param seconds - Of the programme, for a size to begin with.
 */
export function startRate(mode: RateChoice['mode'], rate: RateChoice, codec: RatedCodec, seconds: number): RateChoice {
  const { quality, averagePasses } = RATED[codec];
  const kbps = 'kbps' in rate ? rate.kbps : STARTING_KBPS;
  const passes = 'passes' in rate ? rate.passes : (averagePasses.at(-1) ?? 2);
  const highest = 'maxKbps' in rate ? rate.maxKbps : null;
  switch (mode) {
    case 'quality':
      return rate.mode === mode ? rate : atQuality(quality.usual);
    case 'average':
      return { mode, kbps, passes };
    case 'variable':
      return { mode, kbps, passes, maxKbps: highest ?? kbps * STARTING_PEAK, bufferKbit: null };
    case 'constant':
      return { mode, kbps, bufferKbit: null };
    case 'size':
      return { mode, bytes: rate.mode === mode ? rate.bytes : startingCap(seconds) };
    case 'share':
      return { mode, ofSource: rate.mode === mode ? rate.ofSource : STARTING_SHARE };
  }
}

/** Of the source. */
const STARTING_SHARE = 0.5;

/** A size near the starting rate, in a round number of megabytes. */
function startingCap(seconds: number): number {
  const megabytes = (seconds * STARTING_KBPS) / 8000;
  return megabytes < 10 ? Math.max(1, Math.round(megabytes)) * 1e6 : Math.round(megabytes / 5) * 5e6;
}

function fitRate(rate: RateChoice, from: RatedCodec, codec: RatedCodec): RateChoice {
  const { quality, averagePasses, bufferFault } = RATED[codec];
  const passesFor = (passes: 1 | 2) => (averagePasses.includes(passes) ? passes : (averagePasses[0] ?? 2));
  switch (rate.mode) {
    case 'quality': {
      const isUsual = RATED[from].quality.usual === rate.value;
      const value = isUsual ? quality.usual : sameQuality(RATED[from].quality, quality, rate.value);
      return bufferFault === '' ? { ...rate, value } : { ...rate, value, maxKbps: null, bufferKbit: null };
    }
    case 'average':
      return { ...rate, passes: passesFor(rate.passes) };
    case 'variable': {
      const passes = passesFor(rate.passes);
      return bufferFault === '' ? { ...rate, passes } : { mode: 'average', kbps: rate.kbps, passes };
    }
    case 'constant':
      return bufferFault === '' ? rate : { mode: 'average', kbps: rate.kbps, passes: averagePasses.at(-1) ?? 2 };
    case 'size':
    case 'share':
      return rate;
  }
}

/** What was chosen stays on scales of like steps; on another it is as many times larger or smaller than the usual. */
function sameQuality(from: QualityScale, to: QualityScale, value: number): number {
  const same = from.slope === to.slope ? value : to.usual + ((value - from.usual) * from.slope) / to.slope;
  return Math.min(to.worst, Math.max(to.best, Math.round(same)));
}

/** How a file of this recipe is called at the head of its sentence: `An MP4`. */
export function nameFile({ container }: Recipe): string {
  const { article, name } = CONTAINER[container];
  return `${article} ${name}`;
}
