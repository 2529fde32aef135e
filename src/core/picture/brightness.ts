import { REFERENCE_WHITE } from '../programme/colour.ts';
import type { Rgb } from './lumaChroma.ts';

/** SMPTE ST 2084 (ITU-R BT.2100, table 4). */
export const [M1, M2, C1, C2, C3] = [0.1593017578125, 78.84375, 0.8359375, 18.8515625, 18.6875];

/** The signal, from 0 to 1, of so many cd/m² (SMPTE ST 2084). */
export function quantisedLight(nits: number): number {
  const power = (nits / 10_000) ** M1;
  return ((C1 + C2 * power) / (1 + C3 * power)) ** M2;
}

/** How bright an ordinary display makes a signal (ITU-R BT.1886). */
const DISPLAY_GAMMA = 2.4;

/** Of HLG's signal, where white paper lies (ITU-R BT.2408, table 1); what is darker lies below it about as on ordinary displays. */
const HLG_WHITE = 0.75;

/**
 * A colour of ordinary screens as a signal of another transfer, in which white paper is no brighter than it ought to be.
 *
 * @param transfer - By its name in ITU-T H.273.
 */
export function inTransfer(colour: Rgb, transfer: string): Rgb {
  const signalOf = (value: number) => {
    if (transfer === 'smpte2084') return 255 * quantisedLight(REFERENCE_WHITE * (value / 255) ** DISPLAY_GAMMA);
    return transfer === 'arib-std-b67' ? HLG_WHITE * value : value;
  };
  return [signalOf(colour[0]), signalOf(colour[1]), signalOf(colour[2])];
}
