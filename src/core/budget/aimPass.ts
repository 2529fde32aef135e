import type { QualityScale } from '../video/definition.ts';
import { toStep } from '../video/qualityStep.ts';
import type { WeighedPass } from './weighed.ts';

/** From an encode that was answered to the next in one go at most, as the logarithm of the size. */
const MOST_SIZE_STEP = Math.log(10);

/**
 * The constant quality at which the picture should come to so many bytes: straight in the logarithm between the encodes
 * around it, or on from the nearest by what is usual of the codec.
 *
 * @param wanted - Bytes of the picture.
 * @returns null when every quality between the tried ones around it was tried.
 */
export function aimPass(scale: QualityScale, wanted: number, passes: readonly WeighedPass[]): number | null {
  const finer = passes.filter((pass) => pass.videoBytes > wanted).toSorted((a, b) => b.quality - a.quality)[0];
  const coarser = passes.filter((pass) => pass.videoBytes <= wanted).toSorted((a, b) => a.quality - b.quality)[0];
  const stepOf = (quality: number) => Math.round(quality / scale.step);
  const first = finer ? stepOf(finer.quality) + 1 : stepOf(scale.finestSensible);
  const last = coarser ? stepOf(coarser.quality) - 1 : stepOf(scale.worst);
  if (first > last) return null;
  const step = Math.max(first, Math.min(last, stepOf(reckon(scale, wanted, finer, coarser))));
  return toStep(scale, step * scale.step);
}

function reckon(
  { slope }: QualityScale,
  wanted: number,
  finer: WeighedPass | undefined,
  coarser: WeighedPass | undefined,
): number {
  if (finer && coarser && coarser.quality > finer.quality) {
    const share = Math.log(finer.videoBytes / wanted) / Math.log(finer.videoBytes / coarser.videoBytes);
    return finer.quality + (coarser.quality - finer.quality) * share;
  }
  const nearest = (finer ?? coarser)!;
  const step = Math.log(wanted / nearest.videoBytes);
  return nearest.quality + Math.max(-MOST_SIZE_STEP, Math.min(MOST_SIZE_STEP, step)) / slope;
}
