import type { SoundLevel } from '../../core/sound/loudness.ts';

/** Below this the engine's meter says nothing but its floor: nothing passed the gate of ITU-R BS.1770. */
const FLOOR_LUFS = -70;

/**
 * What the engine's loudness meter says at its end, under `Summary:`: `I: -23.0 LUFS`, and under `True peak:` `Peak: -1.0 dBFS`.
 *
 * @returns null when it did not come to its end.
 */
export function parseLoudness(log: string): SoundLevel | null {
  const summary = log.slice(log.lastIndexOf('Summary:'));
  const lufs = /\bI:\s+(-?[\d.]+) LUFS/.exec(summary);
  const peak = /\bPeak:\s+(-?[\d.]+|-inf) dBFS/.exec(summary);
  if (!lufs || !peak) return null;
  const value = Number(lufs[1]);
  return {
    lufs: value <= FLOOR_LUFS ? -Infinity : value,
    truePeakDbtp: peak[1] === '-inf' ? -Infinity : Number(peak[1]),
  };
}
