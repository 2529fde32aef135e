import { FILTER_GAIN, type PictureSums } from './pictureSums.ts';
import type { PairShape } from './samples.ts';

/**
 * XPSNR: errors count less where a picture is busy or moves (Helmrich, Bosse, Siekmann and others, “XPSNR: a low-complexity
 * extension of the perceptually weighted peak signal-to-noise ratio for high-resolution video quality assessment”, ICASSP
 * 2020; formulas and constants from memory). Luma alone.
 */

/** Above so many pixels the filter takes neighbours two apart, as eyes see no finer there. */
const LARGE_PIXELS = 2048 * 1152;

/** Above it, motion is what changes of the change: single frames are too short to be seen. */
const QUICK_FPS = 32;

/** How much motion hides, against detail. */
const MOTION_WEIGHT = 2;

/** The side of the blocks that are weighted, in pixels: 128 at 3840 × 2160, in steps of 4. */
export function blockSide({ width, height }: Pick<PairShape, 'width' | 'height'>): number {
  return Math.max(4, 4 * Math.floor(32 * Math.sqrt((width * height) / (3840 * 2160)) + 0.5));
}

/** A master's plane of luma and those that were shown before it, as places in the memory of the sums. */
export interface Shown {
  readonly master: number;
  /** null for the first. */
  readonly before: number | null;
  readonly beforeThat: number | null;
}

/** What a result's luma adds up to: its levels, and its errors squared, all alike and each by what the master hides where it is. */
export interface ResultSums {
  readonly levels: number;
  readonly squares: number;
  readonly weighted: number;
}

/** The same of a picture and all its results. */
export interface MomentSums {
  readonly levels: number;
  /** In the order of the results. */
  readonly results: readonly ResultSums[];
}

/**
 * Weighs errors of one picture after another, of all its results at once: what a master hides is the same for all.
 *
 * @returns Of what was shown and the places of its results, what both add up to.
 */
export function createWeigher(
  shape: PairShape,
  sums: PictureSums,
): (shown: Shown, results: readonly number[]) => MomentSums {
  const { width, height, bitDepth, framesPerSecond } = shape;
  const side = blockSide(shape);
  const usual = Math.sqrt(2 ** (2 * bitDepth - 9) / Math.sqrt((width * height) / (3840 * 2160)));
  const least = 2 ** (bitDepth - 6) / FILTER_GAIN;
  const step = width * height > LARGE_PIXELS ? 2 : 1;
  const isQuick = framesPerSecond > QUICK_FPS;

  /** The filter has no answer on the rim of the picture. */
  const detailOf = (plane: number, left: number, top: number, right: number, bottom: number): number => {
    const [x, y] = [Math.max(step, left), Math.max(step, top)];
    const [across, down] = [Math.min(width - step, right) - x, Math.min(height - step, bottom) - y];
    if (across <= 0 || down <= 0) return 0;
    return (
      sums.detail(plane + sums.sampleBytes * (y * width + x), width, across, down, step) / (across * down * FILTER_GAIN)
    );
  };
  const motionOf = ({ master, before, beforeThat }: Shown, at: number, across: number, down: number): number => {
    if (before === null) return 0;
    return isQuick && beforeThat !== null
      ? sums.changeOfChange(master + at, before + at, beforeThat + at, width, across, down)
      : sums.change(master + at, before + at, width, across, down);
  };

  /** Memory is quick in rows and slow in blocks, so each strip of blocks is read through first: then it is at hand. */
  const readThrough = (place: number, top: number, down: number): number =>
    sums.total(place + sums.sampleBytes * top * width, down * width);
  const weightOf = (shown: Shown, top: number, left: number, across: number, down: number): number => {
    const detail = detailOf(shown.master, left, top, left + across, top + down);
    const motion = motionOf(shown, sums.sampleBytes * (top * width + left), across, down) / (across * down);
    return usual / Math.max(least, detail + MOTION_WEIGHT * motion);
  };

  return (shown, results) => {
    let levels = 0;
    const found = results.map(() => ({ levels: 0, squares: 0, weighted: 0 }));
    for (let top = 0; top < height; top += side) {
      const down = Math.min(side, height - top);
      levels += readThrough(shown.master, top, down);
      if (shown.before !== null) readThrough(shown.before, top, down);
      if (isQuick && shown.beforeThat !== null) readThrough(shown.beforeThat, top, down);
      results.forEach((result, index) => (found[index]!.levels += readThrough(result, top, down)));
      for (let left = 0; left < width; left += side) {
        const across = Math.min(side, width - left);
        const at = sums.sampleBytes * (top * width + left);
        const weight = weightOf(shown, top, left, across, down);
        results.forEach((result, index) => {
          const squares = sums.squares(shown.master + at, result + at, width, across, down);
          found[index]!.squares += squares;
          found[index]!.weighted += squares * weight;
        });
      }
    }
    return { levels, results: found };
  };
}
