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

/** What a measure takes of a frame, undefined where it was not measured, and how that is written in decibels. */
interface Scale {
  readonly of: (frame: FrameQuality) => number | undefined;
  readonly toDecibels: (value: number, peak: number) => number;
}

const SCALES: Readonly<Record<Measure, Scale>> = {
  ssim: { of: ({ ssimAll }) => ssimAll, toDecibels: ssimToDecibels },
  psnr: { of: ({ mseAll }) => mseAll, toDecibels: mseToPsnr },
  xpsnr: { of: ({ mseWeighted }) => mseWeighted, toDecibels: mseToPsnr },
};

/**
 * A stretch of frames in one measure.
 *
 * @param frames - At least one.
 * @param peak - Largest sample value of the format compared in.
 * @returns null where it was not measured.
 */
export function pool(frames: readonly FrameQuality[], measure: Measure, peak: number): Pooled | null {
  const { of, toDecibels } = SCALES[measure];
  const measured = frames.map(of).filter((value) => value !== undefined);
  if (measured.length < frames.length) return null;
  const values = measured.map((value) => toDecibels(value, peak));
  const sorted = values.toSorted((a, b) => a - b);
  const low = sorted[0];
  if (low === undefined) return null;
  return {
    mean: toDecibels(measured.reduce((sum, value) => sum + value, 0) / measured.length, peak),
    harmonic: values.length / values.reduce((sum, value) => sum + 1 / Math.max(LEAST_DB, value), 0),
    fifth: sorted[Math.floor((sorted.length - 1) * 0.05)]!,
    low,
    lowFrame: values.indexOf(low),
  };
}

/** What is worse than this is as bad. */
const LEAST_DB = 0.1;

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
