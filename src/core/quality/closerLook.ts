import type { Banding } from './banding.ts';
import { mseToPsnr, ssimToDecibels, type FrameQuality } from './frameQuality.ts';
import type { PairMeasures } from './pairReader.ts';
import { findTint, type Tint } from './tint.ts';

/** What frames are measured in, all in decibels. */
export const MEASURES = ['ssim', 'psnr', 'xpsnr'] as const;
export type Measure = (typeof MEASURES)[number];

/** Many frames in a few numbers of decibels. */
export interface Pooled {
  /** Of SSIM the mean over frames; of errors that of the whole length. */
  readonly mean: number;
  /** Of the frames’ decibels: bad frames count more than in the mean. */
  readonly harmonic: number;
  /** One frame in twenty is no better. */
  readonly fifth: number;
  readonly low: number;
  /** The first of equal ones, from 0. */
  readonly lowFrame: number;
}

/** What is known of a result beyond the summary of its numbers. */
export interface CloserLook {
  readonly pooled: Readonly<Record<Measure, Pooled>>;
  readonly tint: Tint;
  readonly banding: {
    /** Of the picture’s area over the whole length: gradients in the master, and those that have steps in the result. */
    readonly smooth: number;
    readonly banded: number;
    /** The frame with most of them. */
    readonly frame: number;
  };
}

/** Decibels of one frame in one measure; null where it was not measured. */
export function decibelsOf(frame: FrameQuality, measure: Measure, peak: number): number | null {
  switch (measure) {
    case 'ssim':
      return ssimToDecibels(frame.ssimAll);
    case 'psnr':
      return mseToPsnr(frame.mseAll, peak);
    case 'xpsnr':
      return frame.mseWeighted === undefined ? null : mseToPsnr(frame.mseWeighted, peak);
  }
}

/**
 * A stretch of frames in one measure.
 *
 * @param frames - At least one.
 * @param peak - Largest sample value of the format compared in.
 * @returns null where it was not measured.
 */
export function pool(frames: readonly FrameQuality[], measure: Measure, peak: number): Pooled | null {
  const values: number[] = [];
  for (const frame of frames) {
    const value = decibelsOf(frame, measure, peak);
    if (value === null) return null;
    values.push(value);
  }
  const sorted = values.toSorted((a, b) => a - b);
  const low = sorted[0];
  if (low === undefined) return null;
  return {
    mean: meanOf(frames, measure, peak),
    harmonic: values.length / values.reduce((sum, value) => sum + 1 / Math.max(LEAST_DB, value), 0),
    fifth: sorted[Math.floor((sorted.length - 1) * 0.05)]!,
    low,
    lowFrame: values.indexOf(low),
  };
}

/** What is worse than this is as bad. */
const LEAST_DB = 0.1;

function meanOf(frames: readonly FrameQuality[], measure: Measure, peak: number): number {
  const over = (value: (frame: FrameQuality) => number) =>
    frames.reduce((sum, frame) => sum + value(frame), 0) / frames.length;
  switch (measure) {
    case 'ssim':
      return ssimToDecibels(over(({ ssimAll }) => ssimAll));
    case 'psnr':
      return mseToPsnr(
        over(({ mseAll }) => mseAll),
        peak,
      );
    case 'xpsnr':
      return mseToPsnr(
        over(({ mseWeighted }) => mseWeighted ?? 0),
        peak,
      );
  }
}

/**
 * Everything that frames tell which were compared sample by sample.
 *
 * @param peak - Largest sample value of the format compared in.
 * @param matrix - Of the pictures as they were compared, by its name in ITU-T H.273.
 * @returns null without frames.
 */
export function lookCloser(
  frames: readonly (FrameQuality & PairMeasures)[],
  peak: number,
  matrix: string,
): CloserLook | null {
  const [ssim, psnr, xpsnr] = MEASURES.map((measure) => pool(frames, measure, peak));
  if (!ssim || !psnr || !xpsnr) return null;
  const tint = findTint(
    frames.map(({ means }) => means),
    matrix,
  );
  return { pooled: { ssim, psnr, xpsnr }, tint, banding: joinBanding(frames.map(({ banding }) => banding)) };
}

function joinBanding(frames: readonly Banding[]): CloserLook['banding'] {
  const sum = (of: (banding: Banding) => number) => frames.reduce((total, banding) => total + of(banding), 0);
  const areas = Math.max(
    1,
    sum((banding) => banding.areas),
  );
  let frame = 0;
  frames.forEach(({ banded }, index) => {
    if (banded > frames[frame]!.banded) frame = index;
  });
  return {
    smooth: sum((banding) => banding.smooth) / areas,
    banded: sum((banding) => banding.banded) / areas,
    frame,
  };
}

/** One scene of a result in every measure that was taken. */
export interface SceneQuality {
  /** Frames of the result, both included. */
  readonly inFrame: number;
  readonly outFrame: number;
  readonly ssim: number;
  readonly psnr: number;
  readonly xpsnr: number | null;
}

/**
 * The means of each scene.
 *
 * @param starts - First frames of scenes, in order; what comes before the first is a scene as well.
 */
export function poolScenes(frames: readonly FrameQuality[], starts: readonly number[], peak: number): SceneQuality[] {
  const inside = starts.filter((start) => start > 0 && start < frames.length);
  return [0, ...inside].map((inFrame, index) => {
    const outFrame = (inside[index] ?? frames.length) - 1;
    const scene = frames.slice(inFrame, outFrame + 1);
    const [ssim, psnr, xpsnr] = MEASURES.map((measure) => pool(scene, measure, peak)?.mean ?? null);
    return { inFrame, outFrame, ssim: ssim ?? 0, psnr: psnr ?? 0, xpsnr: xpsnr ?? null };
  });
}
