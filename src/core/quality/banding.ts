import { FILTER_GAIN, type PictureSums } from './pictureSums.ts';
import type { PairShape } from './samples.ts';

/** Areas that are looked at by themselves, in pixels: narrower ones hold too few levels of a slow gradient. */
const SIDE = 48;

/** Steps of eight bits that the filter answers at most in a smooth area, dither included (chosen on made gradients). */
const SMOOTH_STEPS = 2;

/** Levels are looked for in one of so many samples of a row, in each row beside those of the one above. */
const SPARE = 4;

/** A gradient has at least so many levels; below, nothing can be lost that is seen. */
const LEAST_LEVELS = 4;

/** The smooth part of one picture, in areas. */
export interface Banding {
  readonly areas: number;
  /** In which the master has a gradient. */
  readonly smooth: number;
  /** Of those, in which the result kept no more than half of its levels: what was smooth has steps. */
  readonly banded: number;
}

/** Nothing was looked at. */
export const NOT_LOOKED: Banding = { areas: 0, smooth: 0, banded: 0 };

/** Counts areas in which results of a master lost levels, planes of luma by their places in the memory of the sums. */
export function createBandingCounter({ width, height, bitDepth }: PairShape, sums: PictureSums) {
  const shift = bitDepth - 8;
  const Samples = sums.sampleBytes === 1 ? Uint8Array : Uint16Array;
  const levelsIn = (plane: number, left: number, top: number): number => {
    const samples = new Samples(sums.memory, plane, width * height);
    const seen = new Uint8Array(256);
    let levels = 0;
    for (let y = top; y < top + SIDE; y += 1) {
      for (let at = y * width + left + (y % SPARE); at < y * width + left + SIDE; at += SPARE) {
        const level = samples[at]! >> shift;
        levels += 1 - seen[level]!;
        seen[level] = 1;
      }
    }
    return levels;
  };
  /** @returns In the order of the results. */
  return (master: number, results: readonly number[]): Banding[] => {
    let [areas, smooth] = [0, 0];
    const banded = results.map(() => 0);
    // The filter looks one sample beyond an area.
    for (let top = 1; top + SIDE < height; top += SIDE) {
      for (let left = 1; left + SIDE < width; left += SIDE) {
        areas += 1;
        const detail = sums.detail(master + sums.sampleBytes * (top * width + left), width, SIDE, SIDE, 1);
        if (detail > SMOOTH_STEPS * 2 ** shift * FILTER_GAIN * SIDE * SIDE) continue;
        const levels = levelsIn(master, left, top);
        if (levels < LEAST_LEVELS) continue;
        smooth += 1;
        results.forEach((result, index) => {
          if (levelsIn(result, left, top) <= levels / 2) banded[index]! += 1;
        });
      }
    }
    return banded.map((count) => ({ areas, smooth, banded: count }));
  };
}
