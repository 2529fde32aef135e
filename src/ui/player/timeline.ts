import type { ProgrammeFacts } from '../../core/programme/facts.ts';
import { positionsOf, timecodePositions, type Positions } from '../../core/programme/positions.ts';
import { constantClock, type FrameClock } from '../../core/timing/frameClock.ts';
import { rational, toNumber } from '../../core/timing/rational.ts';

/** How positions in a programme are counted: in its frames, or for sound only in hundredths of a second. */
export interface Timeline extends Positions {
  readonly frames: number;
  /** The mean where the rate varies. */
  readonly framesPerSecond: number;
  /** From the beginning of the first frame to the end of the last. */
  readonly seconds: number;
  /** When frames are shown, from the first. */
  readonly clock: FrameClock;
}

const SOUND_RATE = rational(100, 1);

/** @param clock - Of the programme's picture; unused for sound only. */
export function timelineOf(facts: ProgrammeFacts, clock: FrameClock): Timeline {
  const rate = facts.video ? facts.frameRate : SOUND_RATE;
  const frames = facts.video ? facts.frameCount : Math.max(1, Math.floor(facts.durationSeconds * 100));
  const own = facts.video ? clock : constantClock(rate, frames);
  return {
    ...(facts.video ? positionsOf(facts, own) : timecodePositions(rate, facts.startTimecode)),
    frames,
    framesPerSecond: toNumber(rate),
    seconds: own.secondsOf(frames),
    clock: own,
  };
}
