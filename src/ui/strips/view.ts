/** The part of a programme's length that is shown, in frames; ends may lie between two. */
export interface View {
  readonly from: number;
  readonly to: number;
}

/** At the closest, this many frames fill the width. */
const CLOSEST_FRAMES = 10;

export function wholeView(frames: number): View {
  return { from: 0, to: frames };
}

/**
 * Zooms so that the frame under the anchor stays where it is.
 *
 * @param factor - Below 1 goes closer.
 */
export function zoomView(view: View, frames: number, anchor: number, factor: number): View {
  const least = Math.min(CLOSEST_FRAMES, frames);
  const length = Math.min(frames, Math.max(least, (view.to - view.from) * factor));
  const share = (anchor - view.from) / (view.to - view.from);
  return holdInside({ from: anchor - share * length, to: anchor + (1 - share) * length }, frames);
}

export function panView(view: View, frames: number, by: number): View {
  return holdInside({ from: view.from + by, to: view.to + by }, frames);
}

/** Moves the view no further than needed to show a frame. */
export function revealFrame(view: View, frames: number, frame: number): View {
  if (frame >= view.from && frame + 1 <= view.to) return view;
  const length = view.to - view.from;
  return holdInside({ from: frame - length / 2, to: frame + length / 2 }, frames);
}

function holdInside({ from, to }: View, frames: number): View {
  const length = Math.min(frames, to - from);
  const begin = Math.max(0, Math.min(frames - length, from));
  return { from: begin, to: begin + length };
}
