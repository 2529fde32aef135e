import type { GaugedStretch } from '../../core/sounding/sounding.ts';

/**
 * Weighs a gauged stretch from the engine's list of packets: after some lines of head that begin with `#`, one line
 * each, `stream, dts, pts, duration, size, checksum`.
 */
export function parseGauge(text: string): GaugedStretch {
  const sizes = text
    .split('\n')
    .filter((line) => line !== '' && !line.startsWith('#'))
    .map((line) => Number(line.split(',')[4]));
  const [firstBytes = 0, ...others] = sizes;
  return { frames: sizes.length, firstBytes, otherBytes: others.reduce((sum, size) => sum + size, 0) };
}
