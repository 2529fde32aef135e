import type { FrameQuality } from './frameQuality.ts';
import type { PictureSums } from './pictureSums.ts';
import { samplesOf, type PairShape } from './samples.ts';

/**
 * SSIM (Wang, Bovik, Sheikh and Simoncelli, “Image quality assessment: from error visibility to structural similarity”, IEEE TIP
 * 2004) in windows of 8 × 8 with all samples alike, 4 apart, as encoders and their tools count it (common practice).
 */

/** Samples of a window. */
const SAMPLES = 64;

/** Bytes that are needed beside the pictures: two rows of sums over blocks of 4 × 4, with some to spare. */
export function roomForSsim({ width }: Pick<PairShape, 'width'>): number {
  return 2 * 4 * 4 * (Math.ceil(width / 4) + 4);
}

/**
 * Compares pictures by their places in the memory of the sums.
 *
 * @param room - A place for `roomForSsim` bytes.
 */
export function createSsim(
  shape: PairShape,
  sums: PictureSums,
  room: number,
): (master: number, result: number) => Pick<FrameQuality, 'ssimLuma' | 'ssimAll'> {
  const { width, height, bitDepth } = shape;
  const { luma, chroma } = samplesOf(shape);
  const peak = 2 ** bitDepth - 1;
  // K1 = 0.01 and K2 = 0.03 of the paper; variances of sums, without bias.
  const c1 = Math.floor((0.01 * peak) ** 2 * SAMPLES + 0.5);
  const c2 = Math.floor((0.03 * peak) ** 2 * SAMPLES * (SAMPLES - 1) + 0.5);
  const planes = [
    { at: 0, across: width, down: height, samples: luma },
    { at: luma, across: Math.ceil(width / 2), down: Math.ceil(height / 2), samples: chroma },
    { at: luma + chroma, across: Math.ceil(width / 2), down: Math.ceil(height / 2), samples: chroma },
  ];
  const alike = (master: number, result: number, { at, across, down }: (typeof planes)[number]): number => {
    const offset = at * sums.sampleBytes;
    const windows = (Math.floor(across / 4) - 1) * (Math.floor(down / 4) - 1);
    // A plane that is smaller than a window says nothing.
    if (windows <= 0) return 1;
    return sums.likeness(master + offset, result + offset, across, across, down, c1, c2, room) / windows;
  };
  return (master, result) => {
    const [ofLuma = 1, ...ofColours] = planes.map((plane) => alike(master, result, plane));
    const colours = ofColours.reduce((sum, one) => sum + one * chroma, 0);
    return { ssimLuma: ofLuma, ssimAll: (ofLuma * luma + colours) / (luma + 2 * chroma) };
  };
}
