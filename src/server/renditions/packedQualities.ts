import type { FrameQuality } from '../../core/quality/frameQuality.ts';

const VALUES_PER_FRAME = 4;

/** Packs per-frame qualities as 32-bit floats, four a frame: hours of them stay small. */
export function packQualities(frames: readonly FrameQuality[]): Uint8Array {
  const values = new Float32Array(frames.length * VALUES_PER_FRAME);
  frames.forEach((frame, index) => {
    values.set([frame.ssimLuma, frame.ssimAll, frame.mseLuma, frame.mseAll], index * VALUES_PER_FRAME);
  });
  return new Uint8Array(values.buffer);
}

/** As they were packed. */
export function unpackQualities(packed: Uint8Array): FrameQuality[] {
  const values = new Float32Array(packed.slice().buffer);
  return Array.from({ length: values.length / VALUES_PER_FRAME }, (_, index) => {
    const [ssimLuma = 0, ssimAll = 0, mseLuma = 0, mseAll = 0] = values.subarray(index * VALUES_PER_FRAME);
    return { ssimLuma, ssimAll, mseLuma, mseAll };
  });
}
