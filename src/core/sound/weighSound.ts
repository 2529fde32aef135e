import { estimateAround, type Estimate } from '../budget/projections.ts';
import type { EncodedSound } from '../recipe/recipe.ts';
import { bytes } from '../units.ts';
import { SOUND } from './codecs.ts';
import { CHANNEL_COUNT } from './definition.ts';

/** Sound comes out at its rate or, where it is quiet, at as little as this much less (measured on speech). */
const RATE_MISS = { below: 0.65, above: 0.03 } as const;

/**
 * What sound is expected to weigh once it is encoded.
 *
 * @param seconds - Of sound.
 */
export function weighSound({ codec, kbps, sampleRate, channels, bitDepth }: EncodedSound, seconds: number): Estimate {
  const { rate } = SOUND[codec];
  if (rate.kind === 'asked') {
    return estimateAround(((kbps ?? rate.usualKbps[channels]) * 1000 * seconds) / 8, RATE_MISS.below, RATE_MISS.above);
  }
  const samples = (seconds * sampleRate * CHANNEL_COUNT[channels] * (bitDepth ?? 16)) / 8;
  const { least, likely, most } = rate.shareOfSamples;
  return { low: bytes(samples * least), likely: bytes(samples * likely), high: bytes(samples * most) };
}
