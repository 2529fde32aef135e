import type { FrameClock } from '../timing/frameClock.ts';
import type { Rational } from '../timing/rational.ts';
import { formatClockTime, readClockTime } from '../timing/clockTime.ts';
import { frameToTimecode, parseShorthand, readTimecodeStart, splitMove } from '../timing/timecode.ts';
import type { ProgrammeFacts } from './facts.ts';

/** How the frames of a programme are named and found by name. */
export interface Positions {
  /** @param frame - From 0, the programme's first. */
  readonly name: (frame: number) => string;
  /**
   * @param text - As people type it: seconds with an s, what `name` gives, the short way of the trade, or how far on.
   * @param from - The frame that + and - go from.
   * @param digits - Whether bare digits are a frame's number or fill the timecode from its end.
   * @returns The frame from 0, or null when the text is none of these. It may lie outside the programme.
   */
  readonly read: (text: string, from: number, digits: 'frame' | 'timecode') => number | null;
}

/**
 * Timecode as the programme's own file counts, from wherever it begins. Timecode counts frames of one rate
 * (SMPTE ST 12-1); where the rate varies frames are named by when they are shown.
 *
 * @param clock - When the programme's frames are shown.
 */
export function positionsOf(
  { frameRate, startTimecode, video }: Pick<ProgrammeFacts, 'frameRate' | 'startTimecode' | 'video'>,
  clock: FrameClock,
): Positions {
  return video?.constantRate === false ? timePositions(clock) : timecodePositions(frameRate, startTimecode);
}

/** Positions counted in frames of one rate. */
export function timecodePositions(rate: Rational, startTimecode: string | null): Positions {
  const start = readTimecodeStart(startTimecode, rate);
  return {
    name: (frame) => frameToTimecode(frame, rate, start),
    read: (text, from, digits) => parseShorthand(text, rate, start, from, digits),
  };
}

function timePositions(clock: FrameClock): Positions {
  return {
    name: (frame) => formatClockTime(clock.secondsOf(frame)),
    read: (text, from) => {
      const { sign, rest: typed } = splitMove(text.trim());
      if (/^\d{1,9}$/.test(typed)) return sign === 0 ? Number(typed) : from + sign * Number(typed);
      const seconds = readClockTime(typed);
      if (seconds === null) return null;
      return clock.frameAt(sign === 0 ? seconds : Math.max(0, clock.secondsOf(from) + sign * seconds));
    },
  };
}
