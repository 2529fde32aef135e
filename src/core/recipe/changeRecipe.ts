import { CONTAINER } from '../container/containers.ts';
import type { Container } from '../container/names.ts';
import { SOUND, soundCodecsOf, type SoundCodec } from '../sound/codecs.ts';
import { VIDEO, videoCodecsOf, type VideoCodec } from '../video/codecs.ts';
import type { QualityScale } from '../video/definition.ts';
import {
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
  const video = encodedVideo(recipe);
  const codec = videoCodecsOf(container)[0];
  if (!video || VIDEO[video.codec].containers.includes(container) || !codec) {
    return withFittingSound({ ...recipe, container });
  }
  return withVideoCodec({ ...recipe, container }, codec);
}

/** The recipe in another sound codec, at the nearest rate and sample rate that it takes. */
export function withSoundCodec(recipe: Recipe, codec: SoundCodec): Recipe {
  const audio = encodedSound(recipe) ?? STARTING_RECIPE.audio;
  return { ...recipe, audio: fitSound({ ...audio, codec }) };
}

function withFittingSound(recipe: Recipe): Recipe {
  const audio = encodedSound(recipe);
  const codec = soundCodecsOf(recipe.container)[0];
  if (!audio || SOUND[audio.codec].containers.includes(recipe.container) || !codec) return recipe;
  return withSoundCodec(recipe, codec);
}

function fitSound(audio: EncodedSound): EncodedSound {
  const { kbps, sampleRates } = SOUND[audio.codec];
  const [least, most] = kbps[audio.channels];
  const sampleRate = sampleRates.includes(audio.sampleRate) ? audio.sampleRate : Math.max(...sampleRates);
  return { ...audio, kbps: Math.min(most, Math.max(least, audio.kbps)), sampleRate };
}

function fitRate(rate: RateChoice, from: VideoCodec, codec: VideoCodec): RateChoice {
  const { quality, averagePasses } = VIDEO[codec];
  switch (rate.mode) {
    case 'quality': {
      const isUsual = VIDEO[from].quality.usual === rate.value;
      const value = isUsual ? quality.usual : sameQuality(VIDEO[from].quality, quality, rate.value);
      return { ...rate, value };
    }
    case 'average':
      return averagePasses.includes(rate.passes) ? rate : { ...rate, passes: averagePasses[0] ?? 2 };
    case 'size':
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
