import { CONTAINER } from '../container/containers.ts';
import type { Container } from '../container/names.ts';
import { SOUND, soundCodecsOf, type SoundCodec } from '../sound/codecs.ts';
import { SOUND_DEPTHS } from '../sound/definition.ts';
import { VIDEO, videoCodecsOf, type VideoCodec } from '../video/codecs.ts';
import type { QualityScale } from '../video/definition.ts';
import {
  atQuality,
  encodedSound,
  encodedVideo,
  STARTING_RECIPE,
  type EncodedSound,
  type RateChoice,
  type Recipe,
} from './recipe.ts';

/**
 * The recipe in another picture codec: the usual quality of one becomes the usual of the other, what was chosen stays
 * where the codec takes it, and a container that does not carry it gives way to one that does.
 */
export function withVideoCodec(recipe: Recipe, codec: VideoCodec): Recipe {
  const { codec: from, rate, effort } = encodedVideo(recipe) ?? STARTING_RECIPE.video;
  const { containers } = VIDEO[codec];
  const container = containers.includes(recipe.container) ? recipe.container : containers[0]!;
  return withFittingSound({ ...recipe, container, video: { codec, effort, rate: fitRate(rate, from, codec) } });
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
  const [least, most] = rate.kbps[audio.channels];
  const kbps = Math.min(most, Math.max(least, audio.kbps ?? rate.usualKbps[audio.channels]));
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
export function startRate(mode: RateChoice['mode'], rate: RateChoice, codec: VideoCodec, seconds: number): RateChoice {
  const { quality, averagePasses } = VIDEO[codec];
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

function fitRate(rate: RateChoice, from: VideoCodec, codec: VideoCodec): RateChoice {
  const { quality, averagePasses, bufferFault } = VIDEO[codec];
  const passesFor = (passes: 1 | 2) => (averagePasses.includes(passes) ? passes : (averagePasses[0] ?? 2));
  switch (rate.mode) {
    case 'quality': {
      const isUsual = VIDEO[from].quality.usual === rate.value;
      const value = isUsual ? quality.usual : sameQuality(VIDEO[from].quality, quality, rate.value);
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
