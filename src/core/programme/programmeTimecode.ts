import { frameToTimecode, readTimecodeStart } from '../timing/timecode.ts';
import type { ProgrammeFacts } from './facts.ts';

/**
 * Timecode of a frame as the programme's own file counts, from wherever it begins.
 *
 * @param frame - From 0, the programme's first.
 */
export function programmeTimecode(
  { frameRate, startTimecode }: Pick<ProgrammeFacts, 'frameRate' | 'startTimecode'>,
  frame: number,
): string {
  return frameToTimecode(frame, frameRate, readTimecodeStart(startTimecode, frameRate));
}
