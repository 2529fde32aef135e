import type { PixelFormat } from '../picture/store.ts';
import { RATED, type RatedCodec } from './codecs.ts';
import { NO_CHOICES, type RatedDefinition } from './definition.ts';

/** How encoders in hardware take their pixels, whatever the codec (common practice, no source). */
export const HARDWARE_FORMAT: PixelFormat = '420p8';

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
