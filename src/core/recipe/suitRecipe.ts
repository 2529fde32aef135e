import type { Findings } from '../analysis/conclude.ts';
import { AS_IT_IS, type Preparation } from '../geometry/preparation.ts';
import { channelTracks } from '../programme/channelTracks.ts';
import type { ProgrammeFacts } from '../programme/facts.ts';
import { formatForWhole } from '../video/carriesWhole.ts';
import { MASTERS } from '../video/codecs.ts';
import { SOUND } from '../sound/codecs.ts';
import { kbpsRange } from '../sound/definition.ts';
import { SOUND_RECIPE } from './stockRecipes.ts';
import { splitFormat, withFittingSound } from './changeRecipe.ts';
import {
  encodedSound,
  isCopied,
  isOneSound,
  fieldsOf,
  losslessVideo,
  OWN_PICTURE,
  renditionSize,
  STARTING_RECIPE,
  takesTracks,
  type EncodedSound,
  type Recipe,
} from './recipe.ts';

/**
 * A recipe as it is applied to one programme. Fields that are taken apart, bars that are cut off, light that is brought down and tracks that
 * are channels of one sound belong to the programme: a recipe that says nothing of them leaves them as they are there. Nor is anything said of a
 * frame size that makes no difference. What is to lose nothing keeps fields and bars, and stores as much of each pixel as there is.
 *
 * @param own - What the programme needs before it is scaled.
 */
export function suitRecipe(recipe: Recipe, facts: ProgrammeFacts, own: Preparation): Recipe {
  if (losslessVideo(recipe)) return storeWhole(recipe, facts);
  const { picture } = recipe;
  const [crop, deinterlace] = [picture.crop ?? own.crop, picture.deinterlace ?? own.deinterlace];
  const dynamicRange = picture.dynamicRange === 'source' ? own.dynamicRange : picture.dynamicRange;
  const suited = { ...picture, crop, deinterlace, dynamicRange };
  const fit = suitFit(facts, { ...recipe, picture: suited });
  return { ...recipe, picture: { ...suited, fit }, audio: suitSound(recipe, facts) };
}

/** A programme that lies in the box already keeps its own size. */
function suitFit(facts: ProgrammeFacts, recipe: Recipe): Recipe['picture']['fit'] {
  const { fit } = recipe.picture;
  if (!fit || fit.orSmaller) return fit;
  const atOwn = { ...recipe, picture: { ...recipe.picture, fit: null } };
  const [own, fitted] = [renditionSize(facts, atOwn), renditionSize(facts, recipe)];
  return own?.width === fitted?.width && own?.height === fitted?.height ? null : fit;
}

/**
 * The sound a recipe makes of a programme where it takes the first track, whatever that is: channels that lie in tracks of their own are taken
 * together, and one channel stays one, at half the rate.
 */
function suitSound({ audio, video }: Recipe, { audio: tracks }: Stored): Recipe['audio'] {
  // A file of sound alone stays one, and it is told that there is none.
  if (tracks.length === 0) return video ? null : audio;
  if (!audio || isCopied(audio) || isOneSound(audio) || !takesTracks(audio, [0])) return audio;
  const channels = channelTracks(tracks);
  if (channels) return { ...audio, tracks: channels, joined: true };
  return tracks[0]?.channels === 1 && audio.channels === 'stereo' ? inMono(audio) : audio;
}

function inMono(audio: EncodedSound): EncodedSound {
  const { rate } = SOUND[audio.codec];
  if (audio.kbps === null || rate.kind === 'whole') return { ...audio, channels: 'mono' };
  const [least, most] = kbpsRange(rate, 'mono');
  return { ...audio, channels: 'mono', kbps: Math.min(most, Math.max(least, Math.round(audio.kbps / 2))) };
}

/**
 * What the order line of a programme starts with, suited to it; one of sound alone with a recipe for sound.
 *
 * @param scan - What the analysis found; null while the file's tag has to do.
 * @param base - What orders begin with here.
 */
export function startingOrder(facts: ProgrammeFacts, scan: Findings['scan'], base: Recipe = STARTING_RECIPE): Recipe {
  const begun = facts.video || !base.video ? base : SOUND_RECIPE;
  return suitRecipe(begun, facts, { ...AS_IT_IS, deinterlace: fieldsOf(facts, scan) });
}

/**
 * A lossless codec stores as many bits and as much colour of each pixel as the programme has, and beside it goes every track of a sound
 * that is kept whole; any other stores what its recipe says.
 */
export function storeWhole(recipe: Recipe, facts: Stored): Recipe {
  const video = losslessVideo(recipe);
  if (!facts.video || !video) return recipe;
  const format = formatForWhole(MASTERS[video.codec].formats, facts.video);
  return { ...recipe, video: { ...video, ...splitFormat(format) }, audio: wholeSound(recipe, facts) };
}

type Stored = Pick<ProgrammeFacts, 'video' | 'audio'>;

function wholeSound(recipe: Recipe, { audio: tracks }: Stored): Recipe['audio'] {
  const sound = encodedSound(recipe);
  if (!sound || isOneSound(sound) || tracks.length === 0 || SOUND[sound.codec].rate.kind !== 'whole')
    return recipe.audio;
  const { sampleRates } = SOUND[sound.codec];
  const sampleRate = sampleRates.find((rate) => tracks.every((track) => track.sampleRate <= rate));
  return { ...sound, tracks: tracks.map((_, index) => index), sampleRate: sampleRate ?? Math.max(...sampleRates) };
}

/** With a lossless codec the master’s own frames, whole and in its own pixels; with any other the recipe as it is. */
export function keepWhole(recipe: Recipe, facts: Stored): Recipe {
  if (!losslessVideo(recipe)) return recipe;
  return storeWhole({ ...recipe, picture: { ...OWN_PICTURE, pixelAspect: 'source' } }, facts);
}

/**
 * An order as a recipe for any programme: which fields come first, which tracks are channels, whether there is sound at all and whether a frame
 * size makes a difference is told by each programme itself.
 *
 * @param base - What the order began as; its sound and its frame size stay where the programme alone changed them.
 */
export function asRecipe(order: Recipe, facts: ProgrammeFacts, base: Recipe = STARTING_RECIPE): Recipe {
  const suited = suitRecipe(base, facts, order.picture);
  const fit = same(suited.picture.fit, order.picture.fit) ? base.picture.fit : order.picture.fit;
  const sound = encodedSound(order);
  const own = sound?.joined ? { ...sound, tracks: [0], joined: false } : order.audio;
  const audio = same(suited.audio, order.audio) ? base.audio : own;
  return withFittingSound({ ...order, picture: { ...order.picture, fit, deinterlace: null }, audio });
}

function same(one: unknown, other: unknown): boolean {
  return JSON.stringify(one) === JSON.stringify(other);
}
