/** Frames of a programme taken as a stretch. */
export interface Stretch {
  readonly inFrame: number;
  readonly frameCount: number;
}

/** Two seconds: shorter, and the keyframe at each start would weigh too much. */
const STRETCH_SECONDS = 2;
const FEWEST = 4;
const MOST = 12;

/**
 * Where a programme is sounded: stretches of two seconds in the middles of equal parts, one for each minute, at least
 * four and at most twelve; all of a programme no longer than four would be.
 *
 * @param frameCount - Of the programme; at least 1.
 * @param framesPerSecond - Above 0.
 */
export function chooseStretches(frameCount: number, framesPerSecond: number): Stretch[] {
  const seconds = frameCount / framesPerSecond;
  if (seconds <= FEWEST * STRETCH_SECONDS) return [{ inFrame: 0, frameCount }];
  const count = Math.min(MOST, Math.max(FEWEST, Math.floor(seconds / 60)));
  const length = Math.max(1, Math.round(STRETCH_SECONDS * framesPerSecond));
  const part = frameCount / count;
  return Array.from({ length: count }, (_, index) => ({
    inFrame: Math.floor((index + 0.5) * part - length / 2),
    frameCount: length,
  }));
}
