import { constantClock, listedClock, type FrameClock } from '../timing/frameClock.ts';
import type { ProgrammeFacts } from './facts.ts';

/**
 * When the frames of a programme are shown.
 *
 * @param seconds - Of every frame where the rate varies; null takes the rate, which for a varying one is the mean.
 */
export function programmeClock(
  { frameRate, frameCount, durationSeconds }: Pick<ProgrammeFacts, 'frameRate' | 'frameCount' | 'durationSeconds'>,
  seconds: readonly number[] | null,
): FrameClock {
  return seconds ? listedClock(seconds, durationSeconds) : constantClock(frameRate, frameCount);
}
