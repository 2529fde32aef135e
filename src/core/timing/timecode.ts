import { readSeconds } from './clockTime.ts';
import { toNumber, type Rational } from './rational.ts';

/** Where a programme's timecode begins, as its file says. */
export interface TimecodeStart {
  /** Frames counted before the programme's first. */
  readonly frames: number;
  /** Drop-frame counting, which only 30000/1001 and 60000/1001 know. */
  readonly drops: boolean;
}

/** Counted from 00:00:00:00, drop-frame where it belongs. */
export function zeroStart(rate: Rational): TimecodeStart {
  return { frames: 0, drops: dropsPerMinute(rate) > 0 };
}

/**
 * Reads the timecode a file begins with.
 *
 * @param text - `10:00:00:00`, with `;` or `.` before the frames for drop-frame; null when the file has none.
 * @returns A start of zero when there is none or it names no frame at this rate.
 */
export function readTimecodeStart(text: string | null, rate: Rational): TimecodeStart {
  const match = /^(\d{2}):(\d{2}):(\d{2})([:;.])(\d{2,3})$/.exec(text?.trim() ?? '');
  if (!match) return zeroStart(rate);
  const drops = match[4] !== ':' && dropsPerMinute(rate) > 0;
  const frames = timecodeToFrame([match[1], match[2], match[3], match[5]].map(Number), rate, drops);
  return frames === null ? zeroStart(rate) : { frames, drops };
}

/**
 * Timecode of a frame (SMPTE ST 12-1). Rates of 30000/1001 and 60000/1001 count drop-frame unless the file says
 * otherwise, written with `;` before the frames. After 24 hours it begins again.
 *
 * @param frame - From 0, the programme's first.
 */
export function frameToTimecode(frame: number, rate: Rational, start: TimecodeStart = zeroStart(rate)): string {
  const nominal = Math.max(1, Math.round(toNumber(rate)));
  const drop = start.drops ? dropsPerMinute(rate) : 0;
  const day = nominal * 86_400 - drop * 1296;
  const shown = (frame + start.frames) % day;
  const counted = drop > 0 ? insertDropped(shown, nominal, drop) : shown;
  const frames = counted % nominal;
  const seconds = Math.floor(counted / nominal);
  const parts = [Math.floor(seconds / 3600), Math.floor(seconds / 60) % 60, seconds % 60];
  const digits = Math.max(2, String(nominal - 1).length);
  return `${parts.map((part) => pad(part, 2)).join(':')}${drop > 0 ? ';' : ':'}${pad(frames, digits)}`;
}

/**
 * Reads a position as people type it: a frame number (`312`), seconds (`12.5s`) or timecode (`01:02:03:04`, with `;` or
 * `:`). Leading parts may be left out; they are then those the programme begins with.
 *
 * @returns The frame from 0, or null when the text is none of these or names a dropped timecode. It may lie outside the
 * programme, also before it.
 */
export function parsePosition(text: string, rate: Rational, start: TimecodeStart = zeroStart(rate)): number | null {
  const trimmed = text.trim();
  if (/^\d{1,9}$/.test(trimmed)) return Number(trimmed);
  const seconds = readSeconds(trimmed);
  // A hair is added so that 0.04 s at 25 frames a second is frame 1 in spite of floating point.
  if (seconds !== null) return Math.floor(seconds * toNumber(rate) + 1e-6);
  return readParts(trimmed, rate, start);
}

/**
 * Reads a position typed the short way of the trade: digits fill the timecode from its end, so that `1210` is twelve
 * seconds and ten frames; `+50` and `-50` are frames on and back, `+12:10` and `+2s` as far on as they say.
 *
 * @param from - The frame that + and - go from.
 * @param digits - What bare digits are.
 * @returns As `parsePosition`.
 */
export function parseShorthand(
  text: string,
  rate: Rational,
  start: TimecodeStart,
  from: number,
  digits: 'frame' | 'timecode',
): number | null {
  const trimmed = text.trim();
  const { sign, rest } = splitMove(trimmed);
  if (sign !== 0) {
    const distance = parsePosition(rest, rate);
    return distance === null ? null : from + sign * distance;
  }
  if (digits === 'timecode' && /^\d{1,8}$/.test(trimmed)) return readParts(splitPairs(trimmed), rate, start);
  return parsePosition(trimmed, rate, start);
}

/**
 * Splits how far on or back from what follows: `+50` is 1 and `50`, `-12:10` is -1 and `12:10`; a hyphen and a minus
 * sign are the same.
 *
 * @returns sign 0 for a text that names a place of its own.
 */
export function splitMove(text: string): { readonly sign: -1 | 0 | 1; readonly rest: string } {
  const moved = /^([+\-\u2212])\s*(.+)$/.exec(text);
  if (moved?.[2] === undefined) return { sign: 0, rest: text };
  return { sign: moved[1] === '+' ? 1 : -1, rest: moved[2] };
}

/** `1210` → `12:10`. */
function splitPairs(digits: string): string {
  return (digits.length % 2 === 1 ? `0${digits}` : digits).replace(/(\d{2})(?=\d)/g, '$1:');
}

function readParts(text: string, rate: Rational, start: TimecodeStart): number | null {
  if (!/^\d{1,3}([:;]\d{1,3}){0,3}$/.test(text)) return null;
  const typed = text.split(/[:;]/).map(Number);
  const missing = 4 - typed.length;
  const begins = partsOf(start, rate).slice(0, missing);
  const frame = timecodeToFrame([...begins, ...typed], rate, start.drops);
  return frame === null ? null : frame - start.frames;
}

/** Hours, minutes and seconds that a programme begins with. */
function partsOf(start: TimecodeStart, rate: Rational): number[] {
  return frameToTimecode(0, rate, start).split(/[:;]/).slice(0, 3).map(Number);
}

function timecodeToFrame(typed: readonly number[], rate: Rational, drops: boolean): number | null {
  const [hours = 0, minutes = 0, seconds = 0, frames = 0] = [...Array<number>(4 - typed.length).fill(0), ...typed];
  const nominal = Math.max(1, Math.round(toNumber(rate)));
  if (minutes > 59 || seconds > 59 || frames >= nominal) return null;
  const drop = drops ? dropsPerMinute(rate) : 0;
  const totalMinutes = hours * 60 + minutes;
  if (drop > 0 && minutes % 10 !== 0 && seconds === 0 && frames < drop) return null;
  const counted = (totalMinutes * 60 + seconds) * nominal + frames;
  return counted - drop * (totalMinutes - Math.floor(totalMinutes / 10));
}

function dropsPerMinute(rate: Rational): number {
  if (rate.den !== 1001 || rate.num % 30000 !== 0) return 0;
  return (rate.num / 30000) * 2;
}

function insertDropped(frame: number, nominal: number, drop: number): number {
  const perMinute = nominal * 60 - drop;
  const perTenMinutes = perMinute * 10 + drop;
  const tens = Math.floor(frame / perTenMinutes);
  const rest = frame % perTenMinutes;
  // The first minute of ten drops nothing, so it is longer than the nine that follow.
  const minutes = rest < nominal * 60 ? 0 : 1 + Math.floor((rest - nominal * 60) / perMinute);
  return frame + drop * (tens * 9 + minutes);
}

function pad(value: number, digits: number): string {
  return String(value).padStart(digits, '0');
}
