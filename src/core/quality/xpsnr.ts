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

/** Weighs errors: what a master hides is the same for all its results. */
export interface Weigher {
  /** Looks at a master's picture; what is weighed from then on are results of it. */
  look(shown: Shown): void;
  /** @returns The mean squared error of a result's plane, weighted. */
  weigh(result: number): number;
}

/** Weighs results of one picture after another. */
export function createWeigher(shape: PairShape, sums: PictureSums): Weigher {
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

  const blocks: { at: number; across: number; down: number; weight: number }[] = [];
  let seen = 0;
  return {
    look: (shown) => {
      seen = shown.master;
      blocks.length = 0;
      for (let top = 0; top < height; top += side) {
        for (let left = 0; left < width; left += side) {
          const [right, bottom] = [Math.min(width, left + side), Math.min(height, top + side)];
          const [across, down] = [right - left, bottom - top];
          const at = sums.sampleBytes * (top * width + left);
          const detail = detailOf(shown.master, left, top, right, bottom);
          const motion = motionOf(shown, at, across, down) / (across * down);
          blocks.push({ at, across, down, weight: usual / Math.max(least, detail + MOTION_WEIGHT * motion) });
        }
      }
    },
    weigh: (result) =>
      blocks.reduce(
        (sum, { at, across, down, weight }) => sum + sums.squares(seen + at, result + at, width, across, down) * weight,
        0,
      ) /
      (width * height),
  };
}
