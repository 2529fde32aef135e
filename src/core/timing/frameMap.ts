import type { FrameClock } from './frameClock.ts';
import { framesToSeconds, type Rational } from './rational.ts';

/** Which frames of a programme a result shows, where it may run at a rate of its own. */
export interface FrameMap {
  /** The programme's frame that a frame of the result shows. */
  readonly toSource: (frame: number) => number;
  /** The first frame of the result that shows a frame of the programme, or one after it. */
  readonly toResult: (sourceFrame: number) => number;
}

/** Frames of a result at the programme's own rate: one for each. */
export function sameFrames(inFrame: number): FrameMap {
  return { toSource: (frame) => inFrame + frame, toResult: (frame) => frame - inFrame };
}

/** A frame that begins this little after a moment is taken for it: of a frame at a constant rate, in seconds otherwise. */
export const EARLY_OF_A_FRAME = 0.05;
export const EARLY_SECONDS = 0.001;

/** Frames of a programme that are taken. */
interface Taken {
  readonly inFrame: number;
  /** At least one. */
  readonly frameCount: number;
}

/**
 * Frames of a result at another rate: each shows what is on the screen when it begins.
 *
 * @param rate - Of the result.
 * @param sourceRate - null where it varies.
 */
export function retimedFrames(
  clock: FrameClock,
  { inFrame, frameCount }: Taken,
  rate: Rational,
  sourceRate: Rational | null,
): FrameMap {
  const start = clock.secondsOf(inFrame);
  const early = sourceRate ? framesToSeconds(EARLY_OF_A_FRAME, sourceRate) : EARLY_SECONDS;
  const toSource = (frame: number) => {
    const moment = start + framesToSeconds(frame, rate) + early;
    // The last that has begun by then.
    let [low, high] = [inFrame, inFrame + frameCount - 1];
    while (low < high) {
      const middle = (low + high + 1) >> 1;
      if (clock.secondsOf(middle) <= moment) low = middle;
      else high = middle - 1;
    }
    return low;
  };
  return {
    toSource,
    toResult: (sourceFrame) => {
      const last = inFrame + frameCount - 1;
      if (sourceFrame < inFrame || sourceFrame > last) {
        return Math.floor(((clock.secondsOf(sourceFrame) - start) * rate.num) / rate.den);
      }
      let frame = Math.max(0, Math.floor(((clock.secondsOf(sourceFrame) - start - early) * rate.num) / rate.den));
      while (toSource(frame) < sourceFrame) frame += 1;
      return frame;
    },
  };
}
