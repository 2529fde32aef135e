import { atLines } from '../geometry/framing.ts';
import { CONTAINER } from '../container/containers.ts';
import { isWhole, type Portion, type ProgrammeFacts } from '../programme/facts.ts';
import { splitFormat, withSoundCodec } from '../recipe/changeRecipe.ts';
import {
  atQuality,
  copyingRecipe,
  encodedSound,
  fieldsOf,
  isCopied,
  isRatedVideo,
  renditionSize,
  STARTING_RECIPE,
  takesTracks,
  type EncodedSound,
  type EncodedVideo,
  type Recipe,
} from '../recipe/recipe.ts';
import { startingOrder } from '../recipe/suitRecipe.ts';
import { partsOf, type PixelFormat } from '../picture/store.ts';
import { soundCodecsOf } from '../sound/codecs.ts';
import { MASTERS, RATED } from '../video/codecs.ts';
import type { Fix } from './advisory.ts';

/** What a fix is applied to: how it will be encoded, and which portion is meant; null is the whole. */
export interface OrderState {
  readonly recipe: Recipe;
  readonly portion: Portion | null;
}

/** The order with a fix applied. */
export function applyFix(facts: ProgrammeFacts, fix: Fix, { recipe, portion }: OrderState): OrderState {
  switch (fix.kind) {
    case 'portion':
      return { recipe, portion: fix.portion };
    case 'copy':
      return { recipe: copyingRecipe(facts, recipe, fix.container), portion: null };
    default:
      return { recipe: changeByFix(recipe, fix), portion };
  }
}

/** A fix that changes settings alone. */
export type RecipeFix = Exclude<Fix, { readonly kind: 'portion' | 'copy' }>;

/** Whether a fix changes settings alone. */
export function isRecipeFix(fix: Fix): fix is RecipeFix {
  return fix.kind !== 'portion' && fix.kind !== 'copy';
}

/** The recipe with a fix applied. */
export function changeByFix(recipe: Recipe, fix: RecipeFix): Recipe {
  switch (fix.kind) {
    case 'crop':
      return { ...recipe, picture: { ...recipe.picture, crop: fix.crop } };
    case 'deinterlace':
      return { ...recipe, picture: { ...recipe.picture, deinterlace: fix.fields } };
    case 'fit':
      return { ...recipe, picture: atLines(recipe.picture, fix.height) };
    case 'sound': {
      const audio = encodedSound(recipe) ?? STARTING_RECIPE.audio;
      return { ...recipe, audio: { ...audio, channels: fix.channels, kbps: fix.kbps } };
    }
    case 'join':
      return { ...recipe, audio: { ...soundFor(recipe), tracks: fix.tracks, mixed: false, joined: true } };
    case 'frame-rate':
      return { ...recipe, time: { frameRate: fix.frameRate } };
    case 'loudness':
      return {
        ...recipe,
        audio: { ...(encodedSound(recipe) ?? STARTING_RECIPE.audio), loudness: fix.level, gainDb: 0 },
      };
    case 'gain':
      return { ...recipe, audio: { ...soundFor(recipe), gainDb: fix.db } };
    case 'rate':
    case 'size':
    case 'keyframes':
    case 'pixels':
    case 'transparency':
      return { ...recipe, video: fixVideo(fix, recipe.video) };
    case 'standard-range':
      return { ...recipe, picture: { ...recipe.picture, dynamicRange: 'standard' } };
    case 'square-pixels':
      return { ...recipe, picture: { ...recipe.picture, pixelAspect: 'square' } };
    case 'embed':
      return { ...recipe, file: { ...recipe.file, captions: 'embed' } };
  }
}

/** What is encoded, also of sound that was to be copied: in what the container takes first. */
function soundFor(recipe: Recipe): EncodedSound {
  const [codec] = soundCodecsOf(recipe.container);
  return encodedSound(recipe) ?? encodedSound(codec ? withSoundCodec(recipe, codec) : recipe) ?? STARTING_RECIPE.audio;
}

type VideoFix = Extract<Fix, { readonly kind: 'rate' | 'size' | 'keyframes' | 'pixels' | 'transparency' }>;

function fixVideo(fix: VideoFix, video: Recipe['video']): Recipe['video'] {
  if (video === null || isCopied(video)) return video;
  if (fix.kind === 'transparency') return keepTransparency(video);
  if (fix.kind === 'pixels') return { ...video, ...splitFormat(fix.format) };
  if (!isRatedVideo(video)) return video;
  const { rate } = video;
  switch (fix.kind) {
    case 'rate':
      return 'kbps' in rate ? { ...video, rate: { ...rate, kbps: fix.kbps } } : video;
    case 'size':
      return rate.mode === 'size' ? { ...video, rate: { mode: 'size', bytes: fix.bytes } } : video;
    case 'keyframes':
      return { ...video, keyframes: { seconds: fix.seconds } };
  }
}

/** In the first format, or flavour, that carries it; its bytes are decided by a quality. */
function keepTransparency(video: EncodedVideo): EncodedVideo {
  const carries = (format: PixelFormat) => partsOf(format).alpha;
  if (isRatedVideo(video)) {
    const { formats, quality } = RATED[video.codec];
    const format = formats.find(carries);
    const rate = video.rate.mode === 'quality' ? video.rate : atQuality(quality.usual);
    return format ? { ...video, ...splitFormat(format), rate } : video;
  }
  const flavour = MASTERS[video.codec].flavours.find(({ formats }) => formats.some(carries));
  const format = flavour?.formats.findLast(carries);
  return flavour && format ? { ...video, flavour: flavour.key, ...splitFormat(format) } : video;
}

/** The order without what a fix did to it, whoever did it: what it changed is as it was at the start. */
export function withdrawFix(facts: ProgrammeFacts, fix: Fix, { recipe, portion }: OrderState): OrderState {
  switch (fix.kind) {
    case 'portion':
      return { recipe, portion: null };
    case 'crop':
      return { recipe: { ...recipe, picture: { ...recipe.picture, crop: null } }, portion };
    case 'deinterlace': {
      const deinterlace = fix.fields === null ? fieldsOf(facts, null) : null;
      return { recipe: { ...recipe, picture: { ...recipe.picture, deinterlace } }, portion };
    }
    case 'standard-range':
      return { recipe: { ...recipe, picture: { ...recipe.picture, dynamicRange: 'source' } }, portion };
    case 'fit': {
      const { fit } = startingOrder(facts, null).picture;
      // The size of a frame that is filled is told by the undo alone.
      const isBoxed = recipe.picture.fit !== null;
      return { recipe: isBoxed ? { ...recipe, picture: { ...recipe.picture, fit } } : recipe, portion };
    }
    case 'copy':
      return {
        recipe: {
          ...recipe,
          container: STARTING_RECIPE.container,
          video: STARTING_RECIPE.video,
          audio: recipe.audio && STARTING_RECIPE.audio,
        },
        portion,
      };
    case 'sound': {
      const audio = encodedSound(recipe) ?? STARTING_RECIPE.audio;
      const { channels, kbps } = STARTING_RECIPE.audio;
      return { recipe: { ...recipe, audio: { ...audio, channels, kbps } }, portion };
    }
    case 'join': {
      const audio = encodedSound(recipe);
      return { recipe: audio ? { ...recipe, audio: { ...audio, tracks: [0], joined: false } } : recipe, portion };
    }
    case 'frame-rate':
      return { recipe: { ...recipe, time: { frameRate: 'source' } }, portion };
    case 'embed':
      return { recipe: { ...recipe, file: { ...recipe.file, captions: 'beside' } }, portion };
    case 'loudness': {
      const audio = encodedSound(recipe);
      return { recipe: audio ? { ...recipe, audio: { ...audio, loudness: null } } : recipe, portion };
    }
    case 'gain':
    case 'rate':
    case 'size':
    case 'keyframes':
    case 'pixels':
    case 'transparency':
    case 'square-pixels':
      // What stood there before is told by the undo alone.
      return { recipe, portion };
  }
}

/** Whether an order already does what a fix would do, or needs it no longer. */
export function isApplied(facts: ProgrammeFacts, fix: Fix, { recipe, portion }: OrderState): boolean {
  // A copy keeps its picture and its sound as they are; what would change them is no longer to be had.
  const isCopy = isCopied(recipe.video);
  switch (fix.kind) {
    case 'portion':
      return portion !== null && !isWhole(portion, facts) && liesWithin(portion, fix.portion);
    case 'crop':
      return !isCopy && sameEdges(recipe.picture.crop, fix.crop);
    case 'deinterlace':
      return !isCopy && recipe.video !== null && recipe.picture.deinterlace === fix.fields;
    case 'fit':
      return !isCopy && (renditionSize(facts, recipe)?.height ?? 0) <= fix.height;
    case 'copy':
      return isCopy;
    case 'sound':
      return (
        !isCopied(recipe.audio) && recipe.audio?.channels === fix.channels && !isAbove(recipe.audio.kbps, fix.kbps)
      );
    case 'join': {
      const audio = encodedSound(recipe);
      return audio?.joined === true && takesTracks(audio, fix.tracks);
    }
    case 'frame-rate':
      return JSON.stringify(recipe.time.frameRate) === JSON.stringify(fix.frameRate);
    case 'loudness': {
      const wanted = encodedSound(recipe)?.loudness;
      // Less loud, or under a lower ceiling, does as well.
      return !!wanted && wanted.lufs <= fix.level.lufs && wanted.truePeakDbtp <= fix.level.truePeakDbtp;
    }
    case 'gain':
      return (encodedSound(recipe)?.gainDb ?? 0) <= fix.db;
    case 'rate':
    case 'size':
    case 'keyframes':
    case 'pixels':
    case 'transparency':
      return JSON.stringify(fixVideo(fix, recipe.video)) === JSON.stringify(recipe.video);
    case 'standard-range':
      return !isCopy && recipe.picture.dynamicRange === 'standard';
    case 'square-pixels':
      return recipe.picture.pixelAspect === 'square';
    case 'embed':
      return (
        recipe.file.captions === 'none' ||
        recipe.file.captions === 'burn' ||
        (recipe.file.captions === 'embed' && CONTAINER[recipe.container].holds.captions)
      );
  }
}

function isAbove(kbps: number | null, most: number): boolean {
  return kbps !== null && kbps > most;
}

function liesWithin(inner: Portion, outer: Portion): boolean {
  return inner.inFrame >= outer.inFrame && inner.outFrame <= outer.outFrame;
}

function sameEdges(a: Recipe['picture']['crop'], b: NonNullable<Recipe['picture']['crop']>): boolean {
  return a !== null && a.top === b.top && a.bottom === b.bottom && a.left === b.left && a.right === b.right;
}
