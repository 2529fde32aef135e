/** The part of a programme's length that is shown, in seconds from its beginning. */
export interface View {
  readonly from: number;
  readonly to: number;
}

/** What is looked along. */
export interface Length {
  readonly seconds: number;
  readonly framesPerSecond: number;
}

/** At the closest, about this many frames fill the width. */
const CLOSEST_FRAMES = 10;

export function wholeView({ seconds }: Length): View {
  return { from: 0, to: seconds };
}

/**
 * Zooms so that the moment under the anchor stays where it is.
 *
 * @param factor - Below 1 goes closer.
 */
export function zoomView(view: View, length: Length, anchor: number, factor: number): View {
  const least = CLOSEST_FRAMES / length.framesPerSecond;
  const shown = Math.min(length.seconds, Math.max(least, (view.to - view.from) * factor));
  const share = (anchor - view.from) / (view.to - view.from);
  return holdInside({ from: anchor - share * shown, to: anchor + (1 - share) * shown }, length);
}

export function panView(view: View, length: Length, by: number): View {
  return holdInside({ from: view.from + by, to: view.to + by }, length);
}

/** Moves the view no further than needed to show a frame, or the beginning of one that lasts longer than what is shown. */
export function revealFrame(
  view: View,
  length: Length,
  frame: { readonly begins: number; readonly ends: number },
): View {
  const shown = view.to - view.from;
  const ends = Math.min(frame.ends, frame.begins + shown);
  if (frame.begins >= view.from && ends <= view.to) return view;
  return holdInside({ from: frame.begins - shown / 2, to: frame.begins + shown / 2 }, length);
}

function holdInside({ from, to }: View, { seconds }: Length): View {
  const shown = Math.min(seconds, to - from);
  const begin = Math.max(0, Math.min(seconds - shown, from));
  return { from: begin, to: begin + shown };
}
