import { seekSeconds, type FrameClock } from '../timing/frameClock.ts';
import type { VideoFacts } from './facts.ts';

/** Where a file is opened so that a wanted frame comes out first. */
export interface Opening {
  /** From the file's earliest stream. */
  readonly atSeconds: number;
  /** From there to the wanted frame; what comes before is left out by its time. */
  readonly skipSeconds: number;
}

/**
 * A file with an index is opened at the frame. One without, such as a transport stream, is opened long enough before
 * it that decoding has found its feet when the frame is due.
 *
 * @param startSeconds - When the picture begins, counted from the file's earliest stream.
 * @returns null where frames have to be counted from the start of the file.
 */
export function openAtFrame(
  {
    seeksExactly,
    seekLeadSeconds,
    startSeconds,
  }: Pick<VideoFacts, 'seeksExactly' | 'seekLeadSeconds' | 'startSeconds'>,
  clock: FrameClock,
  frame: number,
): Opening | null {
  if (!seeksExactly) return null;
  const wanted = seekSeconds(clock, frame, startSeconds);
  if (wanted === 0 || seekLeadSeconds === 0) return { atSeconds: wanted, skipSeconds: 0 };
  // So near to the beginning counting is as quick, and needs no clock.
  return wanted > seekLeadSeconds ? { atSeconds: wanted - seekLeadSeconds, skipSeconds: seekLeadSeconds } : null;
}
