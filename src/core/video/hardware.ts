import type { PixelFormat } from '../picture/store.ts';
import { RATED, type RatedCodec } from './codecs.ts';
import { NO_CHOICES, type RatedDefinition } from './definition.ts';

/** How encoders in hardware take their pixels, whatever the codec (common practice, no source). */
export const HARDWARE_FORMAT: PixelFormat = '420p8';

/** What is said where no encoder in hardware makes a codec. */
export function hardwareMissing(codec: RatedCodec): string {
  return `No encoder in hardware for ${RATED[codec].name} works on this machine; take one of the efforts, which are made in software.`;
}

/** Codecs that encoders in hardware make, of all that were tried. */
export function workingCodecs(tried: readonly { readonly codec: RatedCodec; readonly works: boolean }[]): RatedCodec[] {
  return tried.filter(({ works }) => works).map(({ codec }) => codec);
}

/**
 * What the encoder of a picture takes: the codec's own, or one in hardware. Of those no more is asked than all of them have.
 *
 * @returns Also what it is called.
 */
export function encoderChoices({
  codec,
  hardware,
}: {
  readonly codec: RatedCodec;
  readonly hardware: boolean;
}): Pick<RatedDefinition, 'name' | 'formats' | 'fine'> {
  if (!hardware) return RATED[codec];
  return { name: `${RATED[codec].name} hardware`, formats: [HARDWARE_FORMAT], fine: NO_CHOICES };
}
