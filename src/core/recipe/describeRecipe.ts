import { CONTAINER } from '../container/containers.ts';
import { nameShape, SQUARE, type FrameSize } from '../geometry/frameSize.ts';
import { frameOf } from '../geometry/framing.ts';
import { nameCorrection, namePadding, namePreparation, nameTurn } from '../geometry/preparation.ts';
import { nameFrameRateChoice } from './frameRate.ts';
import {
  encodedSound,
  encodedVideo,
  formatOf,
  isCopied,
  isRatedVideo,
  type CopiedSound,
  type EncodedSound,
  type EncodedVideo,
  type RateChoice,
  type Recipe,
} from './recipe.ts';
import { SOUND } from '../sound/codecs.ts';
import { nameLevel } from '../sound/loudness.ts';
import { sayTreatment } from '../sound/treatment.ts';
import { flavourOf, VIDEO } from '../video/codecs.ts';
import { nameMark } from '../picture/mark.ts';
import { nameFormat } from '../picture/store.ts';
import { afterCommas, joinWords, writeSize } from '../text.ts';

/** The words of the rate, in two parts: what is held to, and to how much; and a bound and passes where there are any. */
export function describeRate(rate: RateChoice): {
  readonly mode: string;
  readonly amount: string;
  readonly highest: string | null;
  readonly passes: string | null;
} {
  const kbps = (value: number) => `${value.toLocaleString('en')} kb/s`;
  const inPasses = (passes: 1 | 2) => (passes === 2 ? 'two passes' : 'one pass');
  const highest = 'maxKbps' in rate && rate.maxKbps !== null ? kbps(rate.maxKbps) : null;
  switch (rate.mode) {
    case 'quality':
      return { mode: 'at constant quality', amount: String(rate.value), highest, passes: null };
    case 'average':
      return { mode: 'averaging', amount: kbps(rate.kbps), highest, passes: inPasses(rate.passes) };
    case 'variable':
      return { mode: 'varying around', amount: kbps(rate.kbps), highest, passes: inPasses(rate.passes) };
    case 'constant':
      return { mode: 'steadily at', amount: kbps(rate.kbps), highest, passes: null };
    case 'size':
      return { mode: 'filling', amount: writeSize(rate.bytes), highest, passes: null };
    case 'share':
      return { mode: 'filling', amount: writeShare(rate.ofSource), highest, passes: null };
  }
}

/** A share of the source in words. */
export function writeShare(share: number): string {
  return `${Number((share * 100).toFixed(1))} % of the source`;
}

/** How much of the sound is kept: its rate, or its depth. */
export function describeSoundAmount({ kbps, bitDepth }: EncodedSound): string {
  return kbps === null ? `in ${bitDepth ?? 16} bits` : `at ${kbps} kb/s`;
}

/** Which of the master's tracks are taken: `track 1`, `tracks 1 and 2, mixed`, `tracks 1 and 2 as its channels`. */
export function nameTracks(audio: EncodedSound | CopiedSound): string {
  const numbers = audio.tracks.map((index) => String(index + 1));
  if (numbers.length === 1) return `track ${numbers.join('')}`;
  const together = isCopied(audio) ? '' : audio.joined ? ' as its channels' : audio.mixed ? ', mixed' : '';
  return `tracks ${joinWords(numbers)}${together}`;
}

/** How many channels a sound gets. */
export function nameChannels({ channels }: EncodedSound): string {
  return channels === 'source' ? 'as the source' : channels;
}

/** Only what is not left as it is is worth a word. */
function sayLoudness({ loudness }: EncodedSound): string {
  return loudness ? `, levelled to ${nameLevel(loudness.lufs)} LUFS` : '';
}

/** What is done to frames before they are scaled, in words; empty where nothing is. */
export function nameTreatment(recipe: Recipe): string {
  const prepared = namePreparation(recipe.picture);
  const rate = keepsRate(recipe) ? '' : nameFrameRateChoice(recipe.time.frameRate);
  return [nameCut(recipe.picture), prepared, rate].filter((part) => part !== '').join(', ');
}

/** Whether frames come as the source's do, also where there are no fields to make frames of. */
function keepsRate({ time: { frameRate }, picture: { deinterlace } }: Recipe): boolean {
  return frameRate === 'source' || (frameRate === 'fields' && !deinterlace);
}

/** Only what is not the first track alone is worth a word. */
function sayTracks(audio: EncodedSound | CopiedSound): string {
  return audio.tracks.length === 1 && audio.tracks[0] === 0 ? '' : ` of ${nameTracks(audio)}`;
}

/** The order line as plain text, wherever a rendition is listed. */
export function describeRecipe(recipe: Recipe, size: FrameSize | null): string {
  const [video, audio] = [encodedVideo(recipe), encodedSound(recipe)];
  if (isCopied(recipe.video) && (isCopied(recipe.audio) || !recipe.audio)) {
    return `The master’s own streams, copied${recipe.audio ? '' : ', no sound'}`;
  }
  const sound = isCopied(recipe.audio)
    ? `the master’s own sound${sayTracks(recipe.audio)}`
    : audio
      ? `${SOUND[audio.codec].name} ${nameChannels(audio)}${sayTracks(audio)} ${describeSoundAmount(audio)}${sayLoudness(audio)}${sayTreatment(audio)}`
      : 'no sound';
  if (isCopied(recipe.video)) return `The master’s own picture, copied, ${sound}`;
  const { article, name } = CONTAINER[recipe.container];
  if (!video) return `${article} ${name} of sound only, ${sound}`;
  const open = recipe.picture.fit?.orSmaller ? ' or smaller' : '';
  const pixels = recipe.picture.pixelAspect === 'source' ? ' in the source’s pixels' : '';
  const frame = `${size ? `${size.width} × ${size.height}` : sayFrame(recipe.picture)}${open}${pixels}`;
  const { frameRate } = recipe.time;
  // Of no programme in particular it is told what happens where there are fields.
  const isOwn = size ? keepsRate(recipe) : frameRate === 'source';
  const rate = isOwn ? '' : `, ${nameFrameRateChoice(frameRate)}`;
  return `${nameVideo(video)}${sayPicture(recipe.picture)}${sayCaptions(recipe)}, ${frame}${rate}, ${isRatedVideo(video) ? `${sayRate(video.rate)}, ` : ''}${sound}`;
}

/** To which shape a picture is cut, in words; empty where it is not. */
function nameCut({ fill }: Pick<Recipe['picture'], 'fill'>): string {
  return fill ? `cut to ${nameShape(fill, SQUARE)}` : '';
}

/** What is done to the picture besides scaling it, in words before each of which there is a comma; empty where nothing is. */
export function sayPicture(picture: Recipe['picture']): string {
  const { crop, rotate, flip, fill, pad } = picture;
  return afterCommas([
    picture.deinterlace ? 'deinterlaced' : '',
    ...[crop ? 'cropped' : '', nameTurn(rotate, flip), nameCut({ fill }), pad ? namePadding(pad) : ''],
    picture.dynamicRange === 'standard' ? 'in standard range' : '',
    nameCorrection(picture),
    nameMark(picture.mark),
  ]);
}

/** Whether captions are drawn in, with a comma before it; a programme may have none. */
export function sayCaptions({ file }: Pick<Recipe, 'file'>): string {
  return file.captions === 'burn' ? ', captions drawn in' : '';
}

/** The frame size of a recipe that is not about a programme. */
function sayFrame(picture: Recipe['picture']): string {
  const frame = frameOf(picture);
  if (frame) return `${frame.width} × ${frame.height}`;
  const { fit } = picture;
  if (!fit) return 'the source’s size';
  if (fit.width === undefined) return `up to ${fit.height} lines`;
  return `up to ${fit.width} × ${fit.height ?? 'any'}`;
}

/** A picture's codec, and hardware where that makes it. */
export function nameCodec(video: EncodedVideo): string {
  return `${VIDEO[video.codec].name}${isRatedVideo(video) && video.hardware ? ' in hardware' : ''}`;
}

/** A picture's codec, with its flavour, with hardware that makes it, and with how its pixels are stored where that is not the usual. */
export function nameVideo(video: EncodedVideo): string {
  const { formats } = VIDEO[video.codec];
  const flavour = isRatedVideo(video) ? null : flavourOf(video.codec, video.flavour);
  const format = formatOf(video);
  const stored = format === (flavour?.formats ?? formats)[0] ? '' : ` in ${nameFormat(format)}`;
  return `${nameCodec(video)}${flavour ? ` ${flavour.name}` : ''}${stored}`;
}

function sayRate(rate: RateChoice): string {
  const { mode, amount, highest, passes } = describeRate(rate);
  return `${mode} ${amount}${highest ? ` and at most ${highest}` : ''}${passes ? ` in ${passes}` : ''}`;
}
