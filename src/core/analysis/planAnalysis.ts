import type { ProgrammeFacts } from '../programme/facts.ts';
import { openAtFrame, type Opening } from '../programme/opening.ts';
import type { FrameClock } from '../timing/frameClock.ts';
import { toNumber } from '../timing/rational.ts';

/** A stretch this long is measured in one go and kept, so that a restart loses little. */
const STRETCH_SECONDS = 60;

/** Frames read before a stretch, so that its first frame has others to be compared with. */
const LEAD_FRAMES = 2;

/** Sound heard before a stretch: short-term loudness looks three seconds back (EBU Tech 3341). */
const LEAD_SOUND_SECONDS = 3;

/** Small pictures along the length: every two seconds, and no more than this many for a long programme. */
const PICTURE_SECONDS = 2;
const MOST_PICTURES = 1500;

/** One stretch of the analysis of a programme. */
export interface AnalysisStretch {
  /** 0 frames for sound only. */
  readonly inFrame: number;
  readonly frameCount: number;
  /** From the programme's beginning. */
  readonly startSeconds: number;
  readonly seconds: number;
  /** Where to open the file so that the lead's first frame comes first. */
  readonly opening: Opening;
  readonly leadFrames: number;
  readonly leadSeconds: number;
}

export interface AnalysisPlan {
  readonly stretches: readonly AnalysisStretch[];
  /** Frames from one small picture to the next; 0 for sound only. */
  readonly pictureInterval: number;
}

const FROM_THE_START: Opening = { atSeconds: 0, skipSeconds: 0 };
const NO_FRAMES = { inFrame: 0, frameCount: 0, opening: FROM_THE_START, leadFrames: 0 } as const;

/**
 * Cuts a programme into stretches for its analysis. A picture whose frames cannot be sought exactly is one stretch.
 */
export function planAnalysis(facts: ProgrammeFacts, clock: FrameClock): AnalysisPlan {
  const { video, durationSeconds, frameCount, frameRate } = facts;
  if (!video) {
    const count = Math.max(1, Math.ceil(durationSeconds / STRETCH_SECONDS));
    const stretches = Array.from({ length: count }, (_, index) => {
      const startSeconds = index * STRETCH_SECONDS;
      const seconds = Math.min(STRETCH_SECONDS, durationSeconds - startSeconds);
      return { ...NO_FRAMES, startSeconds, seconds, leadSeconds: leadOf(startSeconds) };
    });
    return { stretches, pictureInterval: pictureIntervalOf(facts) };
  }
  const pictureInterval = pictureIntervalOf(facts);
  const whole = { ...NO_FRAMES, frameCount, startSeconds: 0, seconds: durationSeconds, leadSeconds: 0 };
  if (!video.seeksExactly) return { stretches: [whole], pictureInterval };
  // A whole number of small pictures, so that their numbers go on from stretch to stretch; and of tenths of a second
  // of sound as nearly as frames allow.
  const wanted = STRETCH_SECONDS * toNumber(frameRate);
  const length = pictureInterval * Math.max(1, Math.round(wanted / pictureInterval));
  const count = Math.max(1, Math.ceil(frameCount / length));
  const stretches = Array.from({ length: count }, (_, index) => {
    const inFrame = index * length;
    const startSeconds = clock.secondsOf(inFrame);
    const frames = Math.min(length, frameCount - inFrame);
    const leadFrames = Math.min(LEAD_FRAMES, inFrame);
    return {
      inFrame,
      frameCount: frames,
      startSeconds,
      seconds: clock.secondsOf(inFrame + frames) - startSeconds,
      opening: openAtFrame(video, clock, inFrame - leadFrames) ?? FROM_THE_START,
      leadFrames,
      leadSeconds: leadOf(startSeconds),
    };
  });
  return { stretches, pictureInterval };
}

/** Frames from one small picture along the length to the next; 0 for sound only. */
export function pictureIntervalOf({ video, durationSeconds, frameRate }: ProgrammeFacts): number {
  if (!video) return 0;
  const interval = Math.max(PICTURE_SECONDS, durationSeconds / MOST_PICTURES);
  return Math.max(1, Math.round(interval * toNumber(frameRate)));
}

function leadOf(startSeconds: number): number {
  return Math.min(LEAD_SOUND_SECONDS, startSeconds);
}
