/** How loud a sound is, or is to be: integrated loudness in LUFS (ITU-R BS.1770; −Infinity for silence), highest true peak in dBTP. */
export interface SoundLevel {
  readonly lufs: number;
  readonly truePeakDbtp: number;
}

/** What brings a sound to a level: turned up by so many decibels, and peaks held under a limit where they would go over. */
export interface Gain {
  readonly db: number;
  /** In dBTP; null where no peak comes near. */
  readonly limitDbtp: number | null;
}

/** How far from what was asked a levelled sound may lie, in LU (EBU R 128, from memory). */
export const LOUDNESS_WITHIN = 0.5;

/** The usual ceiling of true peaks, in dBTP (EBU R 128, from memory). */
export const USUAL_TRUE_PEAK = -1;

/** What recipes may ask for: from far below cinema to as loud as anyone masters. */
export const LUFS_RANGE = [-40, -8] as const;
export const TRUE_PEAK_RANGE = [-9, 0] as const;

/** Encoding with loss lifts true peaks by about so much, in dB (measured: 0.7), and limiting at a finite rate by a little. */
export const LIFT_DB = { lossy: 1, whole: 0.2 } as const;

/** No more is corrected: meters tell tenths, and one of them is near enough. */
const CLOSE_LU = 0.15;

/** A limit that was too high is lowered by a little more. */
const SPARE_DB = 0.1;

/**
 * The gain that brings a sound to a level.
 *
 * @param heard - The sound as it is.
 * @param isLossy - Whether encoding loses something of it, which lifts its peaks.
 * @returns A gain of 0 dB for silence: there is nothing to bring anywhere.
 */
export function firstGain(heard: SoundLevel, target: SoundLevel, isLossy: boolean): Gain {
  if (!Number.isFinite(heard.lufs)) return { db: 0, limitDbtp: null };
  const db = target.lufs - heard.lufs;
  const limitDbtp = target.truePeakDbtp - LIFT_DB[isLossy ? 'lossy' : 'whole'];
  return { db, limitDbtp: heard.truePeakDbtp + db > limitDbtp ? limitDbtp : null };
}

/**
 * The gain that turns a sound up or down by so much: one that is turned up has its peaks held under the usual ceiling.
 *
 * @param isLossy - Whether encoding loses something of it, which lifts its peaks.
 */
export function gainBy(db: number, isLossy: boolean): Gain {
  return { db, limitDbtp: db > 0 ? USUAL_TRUE_PEAK - LIFT_DB[isLossy ? 'lossy' : 'whole'] : null };
}

/**
 * A better gain, by what came of one.
 *
 * @param came - The encoded sound.
 * @returns null where nothing is to be bettered.
 */
export function correctGain(gain: Gain, came: SoundLevel, target: SoundLevel): Gain | null {
  if (!Number.isFinite(came.lufs)) return null;
  const miss = target.lufs - came.lufs;
  const over = came.truePeakDbtp - target.truePeakDbtp;
  if (Math.abs(miss) <= CLOSE_LU && over <= 0) return null;
  const limit = gain.limitDbtp ?? target.truePeakDbtp;
  return { db: gain.db + miss, limitDbtp: over > 0 ? limit - over - SPARE_DB : gain.limitDbtp };
}

/** Whether a sound is as loud as was asked, to the tenth that meters tell; silence has no loudness to be wrong. */
export function keepsLevel(heard: SoundLevel, target: SoundLevel): boolean {
  if (!Number.isFinite(heard.lufs)) return true;
  const isClose = Math.abs(heard.lufs - target.lufs) <= LOUDNESS_WITHIN + 0.05;
  return isClose && heard.truePeakDbtp <= target.truePeakDbtp + 0.05;
}

/** A level in words, with a real minus sign: `−16.0`. */
export function writeLevel(level: number, digits = 1): string {
  return level.toFixed(digits).replace('-', '−');
}

/** A level without a fraction that says nothing: `−16`, `−14.5`. */
export function nameLevel(level: number): string {
  return writeLevel(level, Number.isInteger(level) ? 0 : 1);
}
