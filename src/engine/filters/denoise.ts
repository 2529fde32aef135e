import type { Denoise } from '../../core/picture/denoise.ts';
import { engineFormat } from './store.ts';

/**
 * At full strength: how far luma and chroma of pixels nearby, and of frames before, may differ and still be taken for noise. On noise of 3
 * steps of 8 bits half of it came nearest to the picture without any, on twice as much all of it (measured; slower filters gained 2 dB at most).
 */
const FULL = [16, 12, 20, 16] as const;

export function renderDenoise({ strength, format }: Denoise): string {
  const [near, nearChroma, before, beforeChroma] = FULL.map((one) => (one * strength).toFixed(3));
  return `format=${engineFormat(format)},hqdn3d=${near}:${nearChroma}:${before}:${beforeChroma}`;
}
