import type { FrameSize } from '../../core/geometry/frameSize.ts';

/** How many times a pixel of the master is enlarged; fitted shows the whole picture. */
export const ZOOMS = ['fit', '1', '2', '4', '8'] as const;
export type Zoom = (typeof ZOOMS)[number];

/** A place in the picture, each side from 0 to 1. */
export interface Place {
  readonly x: number;
  readonly y: number;
}

export const MIDDLE: Place = { x: 0.5, y: 0.5 };

/** Where a picture lies in a view, in pixels of the screen. */
export interface Laid {
  readonly left: number;
  readonly top: number;
  readonly width: number;
  readonly height: number;
}

/**
 * Lays a picture into a view with a place of it in the view's middle, as far as that shows no emptiness: a side that is
 * smaller than the view is centred.
 *
 * @param shape - The picture's size in square pixels.
 */
export function layPicture(view: FrameSize, shape: FrameSize, zoom: Zoom, centre: Place): Laid {
  const scale = scaleOf(view, shape, zoom);
  const [width, height] = [shape.width * scale, shape.height * scale];
  return { left: along(view.width, width, centre.x), top: along(view.height, height, centre.y), width, height };
}

function along(view: number, picture: number, centre: number): number {
  if (picture <= view) return (view - picture) / 2;
  return Math.min(0, Math.max(view - picture, view / 2 - centre * picture));
}

function scaleOf(view: FrameSize, shape: FrameSize, zoom: Zoom): number {
  return zoom === 'fit' ? Math.min(view.width / shape.width, view.height / shape.height) : Number(zoom);
}

/** The place in the middle after the picture was pushed by so many pixels. */
export function panBy(view: FrameSize, shape: FrameSize, zoom: Zoom, centre: Place, dx: number, dy: number): Place {
  const { left, top, width, height } = layPicture(view, shape, zoom, centre);
  return {
    x: clampShare((view.width / 2 - left - dx) / width, view.width / width),
    y: clampShare((view.height / 2 - top - dy) / height, view.height / height),
  };
}

/** Kept where the middle of a view can be; beyond, pushing back would seem to do nothing at first. */
function clampShare(share: number, seen: number): number {
  if (seen >= 1) return 0.5;
  return Math.min(1 - seen / 2, Math.max(seen / 2, share));
}

/**
 * The place in the middle after zooming so that what lies at a point of the view stays there.
 *
 * @param at - In pixels from the view's corner; the middle keeps the middle.
 */
export function zoomAt(
  view: FrameSize,
  shape: FrameSize,
  from: Zoom,
  to: Zoom,
  centre: Place,
  at: { readonly x: number; readonly y: number },
): Place {
  const before = layPicture(view, shape, from, centre);
  const scale = scaleOf(view, shape, to);
  const held = { x: (at.x - before.left) / before.width, y: (at.y - before.top) / before.height };
  const wanted = {
    x: held.x + (view.width / 2 - at.x) / (shape.width * scale),
    y: held.y + (view.height / 2 - at.y) / (shape.height * scale),
  };
  return {
    x: clampShare(wanted.x, view.width / (shape.width * scale)),
    y: clampShare(wanted.y, view.height / (shape.height * scale)),
  };
}

/** The next enlargement up or down; the same at the ends. */
export function stepZoom(zoom: Zoom, step: 1 | -1): Zoom {
  return ZOOMS[Math.min(ZOOMS.length - 1, Math.max(0, ZOOMS.indexOf(zoom) + step))] ?? zoom;
}
