import type { FrameQuality } from '../../core/quality/frameQuality.ts';

const PLAIN_VALUES = 4;

/** Begins what has a weighted error besides, five numbers a frame; no SSIM is as low, with which frames begin otherwise. */
const WEIGHTED_MARK = -5;
const WEIGHTED_VALUES = 5;

/** Packs per-frame qualities as 32-bit floats, four or five a frame: hours of them stay small. */
export function packQualities(frames: readonly FrameQuality[]): Uint8Array {
  const isWeighted = frames.length > 0 && frames.every(({ mseWeighted }) => mseWeighted !== undefined);
  const [head, count] = isWeighted ? [1, WEIGHTED_VALUES] : [0, PLAIN_VALUES];
  const values = new Float32Array(head + frames.length * count);
  if (isWeighted) values[0] = WEIGHTED_MARK;
  frames.forEach(({ ssimLuma, ssimAll, mseLuma, mseAll, mseWeighted = 0 }, index) => {
    values.set([ssimLuma, ssimAll, mseLuma, mseAll, ...(isWeighted ? [mseWeighted] : [])], head + index * count);
  });
  return new Uint8Array(values.buffer);
}

/** As they were packed. */
export function unpackQualities(packed: Uint8Array): FrameQuality[] {
  const all = new Float32Array(packed.slice().buffer);
  const isWeighted = all[0] === WEIGHTED_MARK;
  const [values, count] = isWeighted ? [all.subarray(1), WEIGHTED_VALUES] : [all, PLAIN_VALUES];
  return Array.from({ length: values.length / count }, (_, index) => {
    const [ssimLuma = 0, ssimAll = 0, mseLuma = 0, mseAll = 0, mseWeighted = 0] = values.subarray(index * count);
    return { ssimLuma, ssimAll, mseLuma, mseAll, ...(isWeighted ? { mseWeighted } : {}) };
  });
}
