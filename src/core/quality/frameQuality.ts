/** One frame of a result held against the same frame of its master, at the master's frame size. */
export interface FrameQuality {
  /** 0 to 1, luma alone and all planes, each by its samples. */
  readonly ssimLuma: number;
  readonly ssimAll: number;
  /** Mean squared error in steps of the sample format, luma alone and all planes. */
  readonly mseLuma: number;
  readonly mseAll: number;
  /** Luma, weighted by what the eye sees; where it was measured. */
  readonly mseWeighted?: number;
}

export interface SsimSummary {
  readonly mean: number;
  readonly low: number;
  readonly lowFrame: number;
  readonly meanDb: number;
  readonly lumaMean: number;
  readonly lumaLow: number;
}

export interface PsnrSummary {
  readonly mean: number;
  readonly low: number;
  readonly lowFrame: number;
  readonly lumaMean: number;
  readonly lumaLow: number;
}

export interface QualitySummary {
  readonly ssim: SsimSummary;
  readonly psnr: PsnrSummary;
}

/** Identical pictures have no finite PSNR or SSIM in decibels; they are written as this. */
export const CEILING_DB = 100;

/**
 * SSIM in decibels, −10 log10(1 − SSIM).
 *
 * @returns At most 100.
 */
export function ssimToDecibels(ssim: number): number {
  return ssim >= 1 ? CEILING_DB : Math.min(CEILING_DB, -10 * Math.log10(1 - ssim));
}

/**
 * PSNR in decibels, 10 log10(MAX² / MSE); one 8-bit step everywhere is 48.13 dB.
 *
 * @param peak - Largest sample value: 255 for 8 bits.
 * @returns At most 100.
 */
export function mseToPsnr(mse: number, peak: number): number {
  return mse <= 0 ? CEILING_DB : Math.min(CEILING_DB, 10 * Math.log10((peak * peak) / mse));
}

/**
 * Mean and lowest of a rendition. SSIM is averaged over frames; PSNR is taken from the mean squared error of the whole
 * length, so that a few perfect frames do not lift it.
 *
 * @param peak - Largest sample value of the format compared in.
 * @returns Frames count from 0 in the result; of equal lows the first is named.
 * @throws RangeError for an empty list.
 */
export function summariseQuality(frames: readonly FrameQuality[], peak: number): QualitySummary {
  if (frames.length === 0) throw new RangeError('Expected at least one measured frame.');
  const ssimAll = frames.map((frame) => frame.ssimAll);
  const ssimLuma = frames.map((frame) => frame.ssimLuma);
  const psnrAll = frames.map((frame) => mseToPsnr(frame.mseAll, peak));
  const psnrLuma = frames.map((frame) => mseToPsnr(frame.mseLuma, peak));
  return {
    ssim: {
      mean: mean(ssimAll),
      low: least(ssimAll).value,
      lowFrame: least(ssimAll).index,
      meanDb: ssimToDecibels(mean(ssimAll)),
      lumaMean: mean(ssimLuma),
      lumaLow: least(ssimLuma).value,
    },
    psnr: {
      mean: mseToPsnr(mean(frames.map((frame) => frame.mseAll)), peak),
      low: least(psnrAll).value,
      lowFrame: least(psnrAll).index,
      lumaMean: mseToPsnr(mean(frames.map((frame) => frame.mseLuma)), peak),
      lumaLow: least(psnrLuma).value,
    },
  };
}

function mean(values: readonly number[]): number {
  return values.reduce((sum, value) => sum + value, 0) / values.length;
}

/** A loop, since spreading hours of frames into Math.min overflows the stack. */
function least(values: readonly number[]): { value: number; index: number } {
  let index = 0;
  values.forEach((value, candidate) => {
    if (value < values[index]!) index = candidate;
  });
  return { value: values[index]!, index };
}
