import { nameChannels, nameTracks, nameVideo } from './describeRecipe.ts';
import { encodedSound, encodedVideo, isCopied, isRatedVideo, type EncodedSound, type Recipe } from './recipe.ts';
import type { FrameSize } from '../geometry/frameSize.ts';
import { frameOf } from '../geometry/framing.ts';
import { CONTAINER } from '../container/containers.ts';
import { SOUND } from '../sound/codecs.ts';

/** What a recipe says about one thing, for comparison, and how that is called. */
interface Part {
  readonly name: string;
  readonly of: (recipe: Recipe) => unknown;
}

const fineOf = (recipe: Recipe): unknown => {
  const video = encodedVideo(recipe);
  if (!video || !isRatedVideo(video)) return null;
  const { tune, profile, level, tier, reordering, bFrames, closedGroups } = video;
  const { keyframes, keyframesAtScenes, keyframesAtPortions } = video;
  return [
    ...[tune, profile, level, tier, reordering, bFrames, closedGroups],
    ...[keyframes, keyframesAtScenes, keyframesAtPortions],
  ];
};

const rateOf = (recipe: Recipe): unknown => {
  const video = encodedVideo(recipe);
  return video && isRatedVideo(video) ? video.rate : null;
};

const effortOf = (recipe: Recipe): unknown => {
  const video = encodedVideo(recipe);
  return video && isRatedVideo(video) ? [video.effort, video.hardware] : null;
};

const fadesOf = (sound: EncodedSound | null): unknown => sound && [sound.fadeInSeconds, sound.fadeOutSeconds];

const sizeOf = (frame: FrameSize | null): unknown => frame && [frame.width, frame.height];

/** In the order of the sentence. */
const PARTS: readonly Part[] = [
  { name: 'container', of: ({ container }) => CONTAINER[container].name },
  {
    name: 'picture codec',
    of: (recipe) => {
      const video = encodedVideo(recipe);
      if (!video) return isCopied(recipe.video) ? 'copied' : null;
      return nameVideo(isRatedVideo(video) ? { ...video, hardware: false } : video);
    },
  },
  { name: 'rate', of: rateOf },
  { name: 'effort', of: effortOf },
  { name: 'fine settings', of: fineOf },
  { name: 'frame size', of: ({ picture }) => picture.fit ?? sizeOf(frameOf(picture)) },
  { name: 'frame rate', of: ({ time }) => time.frameRate },
  { name: 'pixel aspect', of: ({ picture }) => picture.pixelAspect },
  { name: 'crop', of: ({ picture }) => picture.crop },
  { name: 'shape', of: ({ picture: { fill, pad } }) => (pad ? pad.with : fill !== null) },
  { name: 'turning', of: ({ picture }) => [picture.rotate, picture.flip] },
  { name: 'noise reduction', of: ({ picture }) => picture.denoise },
  { name: 'light and colour', of: ({ picture }) => picture.adjust },
  { name: 'mark', of: ({ picture }) => picture.mark },
  { name: 'dynamic range', of: ({ picture }) => picture.dynamicRange },
  { name: 'deinterlacing', of: ({ picture }) => picture.deinterlace },
  {
    name: 'sound',
    of: (recipe) => {
      const sound = encodedSound(recipe);
      if (!sound) return isCopied(recipe.audio) ? 'copied' : null;
      return [SOUND[sound.codec].name, nameChannels(sound), sound.kbps, sound.bitDepth, sound.sampleRate];
    },
  },
  { name: 'loudness', of: (recipe) => encodedSound(recipe)?.loudness ?? null },
  { name: 'gain', of: (recipe) => encodedSound(recipe)?.gainDb ?? 0 },
  { name: 'delay', of: (recipe) => encodedSound(recipe)?.delayMs ?? 0 },
  { name: 'fades', of: (recipe) => fadesOf(encodedSound(recipe)) },
  { name: 'sound tracks', of: ({ audio }) => audio && nameTracks(audio) },
  { name: 'chapters', of: ({ file }) => file.chapters },
  { name: 'captions', of: ({ file }) => [file.captions, file.captionTrack] },
  { name: 'what it tells of itself', of: ({ file }) => file.metadata },
  { name: 'how it is named', of: ({ file }) => file.name },
];

/** In what a recipe differs from the one it began as: the names of what was changed, in the order of the sentence. */
export function changesOf(saved: Recipe, now: Recipe): string[] {
  return PARTS.filter(({ of }) => JSON.stringify(of(saved)) !== JSON.stringify(of(now))).map(({ name }) => name);
}
