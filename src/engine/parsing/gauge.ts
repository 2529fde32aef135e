import type { GaugedStretch } from '../../core/sounding/sounding.ts';

/**
 * Weighs the frames of a gauged stretch from the engine's list of packets: after some lines of head that begin with `#`, one line
 * each, `stream, dts, pts, duration, size, checksum`.
 */
export function parseGauge(text: string): GaugedStretch {
  return text
    .split('\n')
    .filter((line) => line !== '' && !line.startsWith('#'))
    .map((line) => Number(line.split(',')[4]));
}
