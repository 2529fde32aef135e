/** Frames of a programme taken as a stretch. */
export interface Stretch {
  readonly inFrame: number;
  readonly frameCount: number;
}

/** Below this length the whole programme is taken. */
const WHOLE_UP_TO_SECONDS = 24;
const STRETCHES = 10;
const STRETCH_SECONDS = 2;

/**
 * Where a programme is sounded: all of a short one, otherwise ten stretches of two seconds in the middles of ten
 * equal parts.
 *
 * @param frameCount - Of the programme; at least 1.
 * @param framesPerSecond - Above 0.
 */
export function chooseStretches(frameCount: number, framesPerSecond: number): Stretch[] {
  if (frameCount / framesPerSecond <= WHOLE_UP_TO_SECONDS) return [{ inFrame: 0, frameCount }];
  const length = Math.max(1, Math.round(STRETCH_SECONDS * framesPerSecond));
  const part = frameCount / STRETCHES;
  return Array.from({ length: STRETCHES }, (_, index) => ({
    inFrame: Math.floor((index + 0.5) * part - length / 2),
    frameCount: length,
  }));
}
