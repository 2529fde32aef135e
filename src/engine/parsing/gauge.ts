import type { GaugedStretch } from '../../core/sounding/sounding.ts';

/**
 * Weighs the frames of a gauged stretch from the engine's list of packets: after some lines of head that begin with `#`, one line
 * each, `stream, dts, pts, duration, size, checksum`, then perhaps flags, and how many things come beside the packet with the size of
 * each. A second picture that carries transparency is the last of them, behind eight bytes that say what it is.
 */
export function parseGauge(text: string, hasSecondPicture: boolean): GaugedStretch {
  return text
    .split('\n')
    .filter((line) => line !== '' && !line.startsWith('#'))
    .map((line) => {
      const fields = line.split(',');
      return Number(fields[4]) + (hasSecondPicture ? Math.max(0, Number(fields.at(-1)) - ADDITION_HEAD_BYTES) : 0);
    });
}

const ADDITION_HEAD_BYTES = 8;
