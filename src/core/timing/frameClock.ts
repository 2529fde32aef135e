import { framesToSeconds, toNumber, type Rational } from './rational.ts';

/** When the frames of a picture are shown, in seconds from its first. */
export interface FrameClock {
  /** When a frame begins; for the number of frames, when the last ends. */
  readonly secondsOf: (frame: number) => number;
  /** The frame that is shown at a moment; the first before the beginning, the last after the end. */
  readonly frameAt: (seconds: number) => number;
}

/** Times that name frames are rounded by containers, so a moment this little before a frame is taken for it. */
const ROUNDING_OF_A_FRAME = 0.05;

/** Containers round to a millisecond at the coarsest; a frame that is held for long has no more of it. */
const MOST_ROUNDING_SECONDS = 0.002;

/**
 * The clock of a picture whose frames come at one rate.
 *
 * @param rate - Frames per second; 0 for sound only, where every moment is frame 0.
 * @param frameCount - Of the programme.
 */
export function constantClock(rate: Rational, frameCount: number): FrameClock {
  return {
    secondsOf: (frame) => (rate.num > 0 ? framesToSeconds(frame, rate) : 0),
    frameAt: (seconds) => clampFrame(Math.floor(seconds * toNumber(rate) + ROUNDING_OF_A_FRAME), frameCount),
  };
}

/**
 * The clock of a picture whose rate varies.
 *
 * @param times - Of every frame, in seconds from the first, never falling; at least one.
 * @param endSeconds - When the last frame ends.
 */
export function listedClock(times: readonly number[], endSeconds: number): FrameClock {
  return {
    secondsOf: (frame) => times[Math.max(0, frame)] ?? endSeconds,
    frameAt: (seconds) => {
      const after = countUpTo(times, seconds);
      const length = (times[after] ?? endSeconds) - (times[after - 1] ?? 0);
      const isNext =
        after < times.length &&
        (times[after] ?? 0) - seconds < Math.min(length * ROUNDING_OF_A_FRAME, MOST_ROUNDING_SECONDS);
      return clampFrame(isNext ? after : after - 1, times.length);
    },
  };
}

/** The clock of a portion, counted from its own first frame. */
export function portionClock(clock: FrameClock, inFrame: number): FrameClock {
  const start = clock.secondsOf(inFrame);
  return {
    secondsOf: (frame) => clock.secondsOf(inFrame + frame) - start,
    frameAt: (seconds) => Math.max(0, clock.frameAt(start + seconds) - inFrame),
  };
}

/**
 * Where to open a file so that the first frame out is the wanted one: half a frame early, so that no rounding of
 * stamps can reach the next.
 *
 * @param startSeconds - When the picture begins, on the file's clock.
 * @returns 0 for the first frame.
 */
export function seekSeconds(clock: FrameClock, frame: number, startSeconds: number): number {
  return frame <= 0 ? 0 : startSeconds + (clock.secondsOf(frame - 1) + clock.secondsOf(frame)) / 2;
}

function clampFrame(frame: number, count: number): number {
  return Math.max(0, Math.min(count - 1, frame));
}

/** How many of the rising times are not after a moment. */
function countUpTo(times: readonly number[], seconds: number): number {
  let [low, high] = [0, times.length];
  while (low < high) {
    const middle = (low + high) >> 1;
    if ((times[middle] ?? Infinity) <= seconds) low = middle + 1;
    else high = middle;
  }
  return low;
}
