/** Frames of a programme that a sounding encodes. */
export interface SoundedSpan {
  readonly inFrame: number;
  readonly frameCount: number;
}

/** Two seconds: shorter, and the keyframe at each start would weigh too much. */
const SPAN_SECONDS = 2;
const FEWEST = 4;
const MOST = 12;

/**
 * Where a portion is sounded: stretches of two seconds in the middles of equal parts, one for each minute, at least
 * four and at most twelve; all of a portion no longer than four would be.
 *
 * @param span - At least one frame.
 * @param framesPerSecond - Above 0.
 * @returns All inside the span.
 */
export function chooseSoundedSpans(span: SoundedSpan, framesPerSecond: number): SoundedSpan[] {
  const seconds = span.frameCount / framesPerSecond;
  if (seconds <= FEWEST * SPAN_SECONDS) return [span];
  const count = Math.min(MOST, Math.max(FEWEST, Math.floor(seconds / 60)));
  return inEqualParts(span, count, Math.max(1, Math.round(SPAN_SECONDS * framesPerSecond)));
}

/** Where every frame stands by itself a few at a place are enough, and more places tell more. */
const FRAMES_AT_A_PLACE = 4;
const PLACE_EVERY_SECONDS = 5;
const FEWEST_PLACES = 6;
const MOST_PLACES = 30;

/** The same for a codec whose frames stand by themselves: a few frames in the middle of each five seconds, in at most thirty places. */
export function chooseSampledSpans(span: SoundedSpan, framesPerSecond: number): SoundedSpan[] {
  if (span.frameCount <= FEWEST_PLACES * FRAMES_AT_A_PLACE) return [span];
  const places = Math.floor(span.frameCount / framesPerSecond / PLACE_EVERY_SECONDS);
  return inEqualParts(span, Math.min(MOST_PLACES, Math.max(FEWEST_PLACES, places)), FRAMES_AT_A_PLACE);
}

function inEqualParts(span: SoundedSpan, count: number, length: number): SoundedSpan[] {
  const part = span.frameCount / count;
  return Array.from({ length: count }, (_, index) => ({
    inFrame: span.inFrame + Math.floor((index + 0.5) * part - length / 2),
    frameCount: length,
  }));
}
