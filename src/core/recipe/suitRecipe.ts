import type { Findings } from '../analysis/conclude.ts';
import type { Preparation } from '../geometry/preparation.ts';
import { channelTracks } from '../programme/channelTracks.ts';
import type { ProgrammeFacts } from '../programme/facts.ts';
import { formatForWhole } from '../video/carriesWhole.ts';
import { MASTERS } from '../video/codecs.ts';
import { SOUND } from '../sound/codecs.ts';
import { splitFormat } from './changeRecipe.ts';
import {
  encodedSound,
  encodedVideo,
  isOneSound,
  isRatedVideo,
  OWN_PICTURE,
  startingRecipe,
  type EncodedSound,
  type MasterVideo,
  type Recipe,
} from './recipe.ts';

/**
 * A recipe as it is applied to one programme. Fields that are taken apart, bars that are cut off, light that is brought down and tracks that
 * are channels of one sound belong to the programme: a recipe that says nothing of them leaves them as they are there. What is to lose nothing keeps both, and stores as much of each pixel as there is.
 *
 * @param own - What the programme needs before it is scaled.
 */
export function suitRecipe(recipe: Recipe, facts: ProgrammeFacts, own: Preparation): Recipe {
  if (losslessVideo(recipe)) return storeWhole(recipe, facts);
  const { picture } = recipe;
  const [crop, deinterlace] = [picture.crop ?? own.crop, picture.deinterlace ?? own.deinterlace];
  const dynamicRange = picture.dynamicRange === 'source' ? own.dynamicRange : picture.dynamicRange;
  return { ...recipe, picture: { ...picture, crop, deinterlace, dynamicRange }, audio: joinChannels(recipe, facts) };
}

/** Where a recipe takes the first track, whatever that is, channels that lie in tracks of their own are taken together. */
function joinChannels(recipe: Recipe, facts: ProgrammeFacts): Recipe['audio'] {
  const [sound, tracks] = [encodedSound(recipe), channelTracks(facts.audio)];
  if (!sound || !tracks || !takesFirst(sound)) return recipe.audio;
  return { ...sound, tracks, joined: true };
}

function takesFirst(sound: EncodedSound): boolean {
  return sound.tracks.join(' ') === '0' && !isOneSound(sound);
}

/**
 * What the order line of a programme starts with, suited to it.
 *
 * @param scan - What the analysis found; null while the file's tag has to do.
 * @param base - What orders begin with here.
 */
export function startingOrder(facts: ProgrammeFacts, scan: Findings['scan'], base?: Recipe): Recipe {
  const begun = startingRecipe(facts, scan, base);
  return suitRecipe({ ...begun, picture: { ...begun.picture, deinterlace: null } }, facts, begun.picture);
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

/** An order as a recipe for any programme: which fields come first, and which tracks are channels, is told by each programme itself. */
export function asRecipe(order: Recipe): Recipe {
  const sound = encodedSound(order);
  const audio = sound?.joined ? { ...sound, tracks: [0], joined: false } : order.audio;
  return { ...order, picture: { ...order.picture, deinterlace: null }, audio };
}

/** What a recipe says about a picture that is to lose nothing; null for any other. */
export function losslessVideo(recipe: Recipe): MasterVideo | null {
  const video = encodedVideo(recipe);
  return video && !isRatedVideo(video) && MASTERS[video.codec].isLossless ? video : null;
}
