import { CONTAINER } from '../container/containers.ts';
import type { FrameSize } from '../geometry/frameSize.ts';
import { encodedSound, encodedVideo, isCopied, type RateChoice, type Recipe } from './recipe.ts';
import { SOUND } from '../sound/codecs.ts';
import { VIDEO } from '../video/codecs.ts';
import { writeSize } from '../text.ts';

/** The words of the rate, in two parts: what is held to, and to how much. */
export function describeRate(rate: RateChoice): {
  readonly mode: string;
  readonly amount: string;
  readonly passes: string | null;
} {
  switch (rate.mode) {
    case 'quality':
      return { mode: 'at constant quality', amount: String(rate.value), passes: null };
    case 'average':
      return {
        mode: 'averaging',
        amount: `${rate.kbps.toLocaleString('en')} kb/s`,
        passes: rate.passes === 2 ? 'two passes' : 'one pass',
      };
    case 'size':
      return { mode: 'filling', amount: writeSize(rate.bytes), passes: null };
  }
}

/** The order line as plain text, wherever a rendition is listed. */
export function describeRecipe(recipe: Recipe, size: FrameSize | null): string {
  if (isCopied(recipe.video)) return `The master’s own streams, copied${recipe.audio ? '' : ', no sound'}`;
  const [video, audio] = [encodedVideo(recipe), encodedSound(recipe)];
  const sound = audio ? `${SOUND[audio.codec].name} ${audio.channels} at ${audio.kbps} kb/s` : 'no sound';
  const { article, name } = CONTAINER[recipe.container];
  if (!video) return `${article} ${name} of sound only, ${sound}`;
  const { mode, amount, passes } = describeRate(video.rate);
  const { crop, deinterlace } = recipe.picture;
  const prepared = `${deinterlace ? ', deinterlaced' : ''}${crop ? ', cropped' : ''}`;
  const frame = size ? `${size.width} × ${size.height}` : 'the source’s size';
  return `${VIDEO[video.codec].name}${prepared}, ${frame}, ${mode} ${amount}${passes ? ` in ${passes}` : ''}, ${sound}`;
}
