import { CODEC_NAMES } from '../../core/codec/tables.ts';
import type { FrameSize } from '../../core/geometry/frameSize.ts';
import type { RateChoice, Recipe } from '../../core/rate/recipe.ts';
import { writeSize } from '../kit/format.ts';

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
  const sound = recipe.audio ? `AAC ${recipe.audio.channels} at ${recipe.audio.kbps} kb/s` : 'no sound';
  if (!recipe.video) return `An MP4 of sound only, ${sound}`;
  const { mode, amount, passes } = describeRate(recipe.video.rate);
  const { crop, deinterlace } = recipe.picture;
  const prepared = `${deinterlace ? ', deinterlaced' : ''}${crop ? ', cropped' : ''}`;
  const frame = size ? `${size.width} × ${size.height}` : 'the source’s size';
  return `${CODEC_NAMES[recipe.video.codec]}${prepared}, ${frame}, ${mode} ${amount}${passes ? ` in ${passes}` : ''}, ${sound}`;
}
