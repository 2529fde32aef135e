import { estimateAround, type Estimate } from '../budget/projections.ts';
import type { EncodedSound } from '../recipe/recipe.ts';
import { bytes } from '../units.ts';
import { SOUND } from './codecs.ts';
import { kbpsRange, LAYOUT_CHANNELS, usualKbps, type Layout } from './definition.ts';

/** Sound comes out at its rate or, where it is quiet, at as little as this much less (measured on speech). */
export const RATE_MISS = { below: 0.65, above: 0.03 } as const;

/**
 * The rate a track of a layout is encoded at: what is asked, within what the encoder takes where the layout is the
 * source's own, since then nobody chose it for this track.
 *
 * @returns In kb/s; null for sound that is kept whole.
 */
export function soundKbps({ codec, kbps, channels }: EncodedSound, layout: Layout): number | null {
  const { rate } = SOUND[codec];
  if (rate.kind === 'whole') return null;
  const asked = kbps ?? usualKbps(rate, layout);
  const [least, most] = kbpsRange(rate, layout);
  return channels === 'source' ? Math.min(most, Math.max(least, asked)) : asked;
}

/**
 * What one track of sound is expected to weigh once it is encoded.
 *
 * @param seconds - Of sound.
 */
export function weighSound(audio: EncodedSound, layout: Layout, seconds: number): Estimate {
  const { rate } = SOUND[audio.codec];
  if (rate.kind === 'asked') {
    const kbps = soundKbps(audio, layout) ?? usualKbps(rate, layout);
    return estimateAround((kbps * 1000 * seconds) / 8, RATE_MISS.below, RATE_MISS.above);
  }
  const samples = (seconds * audio.sampleRate * LAYOUT_CHANNELS[layout] * (audio.bitDepth ?? 16)) / 8;
  const { least, likely, most } = rate.shareOfSamples;
  return { low: bytes(samples * least), likely: bytes(samples * likely), high: bytes(samples * most) };
}
