/** Frames of a programme that a sounding encodes. */
export interface SoundedSpan {
  readonly inFrame: number;
  readonly frameCount: number;
}

/** Two seconds: shorter, and the keyframe at each start would weigh too much. */
const SPAN_SECONDS = 2;
const FEWEST = 4;

/** At once, while nobody knows how busy the programme is where: someone waits for it. */
const EVEN = { everySeconds: 60, most: 12 } as const;

/**
 * Afterwards. Of an hour of scenes at one quality, twelve evenly spaced stretches missed by 27 % in the median and one of ten by 64;
 * thirty-two of a second, from calm to busy, by 10 and 28 (measured, drawn at random from the bits of the whole).
 */
const BY_BUSYNESS = { everySeconds: 30, most: 32 } as const;

/**
 * Where a portion is sounded: stretches of two seconds, at least four; all of a portion no longer than four would be. They lie in the
 * middles of equal parts, or where it is known how busy the programme is, in the middles of equal parts from its calmest stretch to its
 * busiest.
 *
 * @param span - At least one frame.
 * @param framesPerSecond - Above 0.
 * @param busyOf - How busy a stretch is; null while nobody knows.
 * @returns All inside the span.
 */
export function chooseSoundedSpans(
  span: SoundedSpan,
  framesPerSecond: number,
  busyOf: ((stretch: SoundedSpan) => number) | null,
): SoundedSpan[] {
  const seconds = span.frameCount / framesPerSecond;
  if (seconds <= FEWEST * SPAN_SECONDS) return [span];
  const { everySeconds, most } = busyOf ? BY_BUSYNESS : EVEN;
  const count = Math.min(most, Math.max(FEWEST, Math.floor(seconds / everySeconds)));
  const frameCount = Math.max(1, Math.round(SPAN_SECONDS * framesPerSecond));
  if (!busyOf) return inEqualParts(span, count, frameCount);
  const all = Array.from({ length: Math.floor(span.frameCount / frameCount) }, (_, index) => {
    const stretch = { inFrame: span.inFrame + index * frameCount, frameCount };
    return { stretch, busy: busyOf(stretch) };
  }).toSorted((a, b) => a.busy - b.busy);
  return Array.from({ length: count }, (_, index) => all[Math.floor(((index + 0.5) * all.length) / count)]!.stretch);
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
