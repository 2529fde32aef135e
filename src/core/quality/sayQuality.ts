import type { CloserLook, Measure } from './closerLook.ts';
import { CEILING_DB, ssimToDecibels } from './frameQuality.ts';
import { isTinted, type Tint, type TintCause } from './tint.ts';

/** What a number means, and from which difference on it is seen as a rule (common practice, no source). */
export const MEASURE_WORDS: Readonly<Record<Measure, { readonly name: string; readonly meaning: string }>> = {
  ssim: {
    name: 'SSIM',
    meaning: 'How alike the structure of both pictures is. Half a decibel is seen by a trained eye, one by most.',
  },
  psnr: {
    name: 'PSNR',
    meaning:
      'How small errors are, wherever they lie. Below half a decibel nothing is seen; grain lowers it for nothing.',
  },
  xpsnr: {
    name: 'XPSNR',
    meaning: 'How small errors are where the eye would see them, luma alone: less counts where much moves or is busy.',
  },
};

/** Decibels as they are written: two digits, and a word where nothing differs. */
export function sayDecibels(value: number): string {
  return value >= CEILING_DB ? 'identical' : `${value.toFixed(2)} dB`;
}

/** SSIM from 0 to 1 as it is written. */
export function saySsim(ssim: number): string {
  return sayDecibels(ssimToDecibels(ssim));
}

const CAUSES: Readonly<Record<TintCause, string>> = {
  'other-matrix': 'colours read by the matrix of another standard, BT.601 for BT.709 or the reverse',
  'full-as-limited': 'levels of full range read as limited',
  'limited-as-full': 'levels of limited range read as full',
};

/** By how much colours are off, with what is likely to have done it; null where nothing is to be seen. */
export function explainTint(tint: Tint): string | null {
  if (!isTinted(tint)) return null;
  const shifts = (['red', 'green', 'blue'] as const)
    .filter((channel) => Math.abs(tint[channel]) >= 0.5)
    .map((channel) => `${channel} ${tint[channel] > 0 ? '+' : '−'}${Math.abs(tint[channel]).toFixed(1)}`);
  const cause = tint.cause
    ? `It looks like ${CAUSES[tint.cause]}: the tags of the master may be wrong.`
    : 'No usual mistake explains it; very coarse coding shifts colours too.';
  return `Tint: in the mean ${shifts.join(', ')} of 255 steps against the master. ${cause}`;
}

/** Of the area of gradients: less is not noticed (common practice, no source). */
const BANDED_SHARE = 0.1;

/** Of the picture: less is too small to be noticed. */
const SMOOTH_SHARE = 0.005;

/** Which part of the smooth areas has steps; null where none that is noticed. */
export function explainBanding({ smooth, banded }: CloserLook['banding']): string | null {
  if (smooth < SMOOTH_SHARE || banded < smooth * BANDED_SHARE) return null;
  const share = Math.round((100 * banded) / smooth);
  return `Banding: in ${share} % of the smooth areas, which are ${Math.max(1, Math.round(100 * smooth))} % of the picture, half of the levels or more are lost. A finer quality, 10 bits or grain help.`;
}
