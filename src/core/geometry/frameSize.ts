import { rational, toNumber, type Rational } from '../timing/rational.ts';

/** A picture's size in pixels. */
export interface FrameSize {
  readonly width: number;
  readonly height: number;
}

/** Fits inside the box and keeps the shape; a side left out is free. */
export interface Fit {
  readonly width?: number | undefined;
  readonly height?: number | undefined;
  readonly enlarge?: boolean | undefined;
  /** Or a smaller one, whichever measures best at the size to fill. */
  readonly orSmaller?: boolean | undefined;
}

/** Largest side any of the encoders takes. */
export const LARGEST_SIDE = 8192;

/** The common 16:9 boxes offered for the web, largest first (common practice, no source). */
export const COMMON_HEIGHTS = [2160, 1440, 1080, 720, 540, 360] as const;

/**
 * The shape in square pixels, before rounding: the width carries the pixel aspect.
 *
 * @param pixelAspect - Width over height of one pixel; 64/45 for 16:9 in 720 × 576 (ITU-R BT.601).
 */
export function displaySize(stored: FrameSize, pixelAspect: Rational): FrameSize {
  return { width: stored.width * toNumber(pixelAspect), height: stored.height };
}

/** Whether a rendition's pixels are made square, or keep the source's shape. */
export const PIXEL_ASPECTS = ['square', 'source'] as const;
export type PixelAspect = (typeof PIXEL_ASPECTS)[number];

/** The shape of a pixel that is as wide as it is high. */
export const SQUARE: Rational = rational(1, 1);

/**
 * The frame size a rendition will have: inside the box, the shape kept, both sides even (4:2:0 needs it), never larger than the
 * source unless asked.
 *
 * @param pixelAspect - Of the source, where pixels are made square; square, where they keep their shape.
 * @param fit - null keeps the source's own size, made even.
 * @returns At least 2 × 2.
 */
export function fitFrameSize(stored: FrameSize, pixelAspect: Rational, fit: Fit | null): FrameSize {
  const shown = displaySize(stored, pixelAspect);
  const wanted = Math.min((fit?.width ?? Infinity) / shown.width, (fit?.height ?? Infinity) / shown.height);
  const scale = Number.isFinite(wanted) ? (fit?.enlarge ? wanted : Math.min(1, wanted)) : 1;
  return {
    width: evenWithin(shown.width * scale, fit?.width),
    height: evenWithin(shown.height * scale, fit?.height),
  };
}

/** Width over height as it is seen, with the pixel aspect. */
export function shapeOf(stored: FrameSize, pixelAspect: Rational): number {
  return displaySize(stored, pixelAspect).width / stored.height;
}

/** Shapes of screens and of what is shown on them, the widest first (common practice, no source). */
export const SHAPES = [rational(16, 9), rational(4, 3), rational(1, 1), rational(4, 5), rational(9, 16)];

/** Even sizes are a little off their shape. */
const SHAPE_TOLERANCE = 0.01;

/** The known shape that a picture has; null where it has one of its own. */
export function knownShape(stored: FrameSize, pixelAspect: Rational): Rational | null {
  const ratio = shapeOf(stored, pixelAspect);
  return SHAPES.find((shape) => Math.abs(toNumber(shape) / ratio - 1) < SHAPE_TOLERANCE) ?? null;
}

/** The shape of a frame of square pixels: the known one that it was made for, or its own. */
export function frameShape(frame: FrameSize): Rational {
  return knownShape(frame, SQUARE) ?? rational(frame.width, frame.height);
}

/** The nearest frame of even sides. */
export function evenFrame(width: number, height: number): FrameSize {
  return { width: 2 * Math.round(width / 2), height: 2 * Math.round(height / 2) };
}

/** Shape as the trade writes it: `16:9`, or width over height to 1 such as `2.39:1`. */
export function nameShape(stored: FrameSize, pixelAspect: Rational): string {
  const known = knownShape(stored, pixelAspect);
  return known ? `${known.num}:${known.den}` : `${shapeOf(stored, pixelAspect).toFixed(2)}:1`;
}

function evenWithin(value: number, limit: number | undefined): number {
  const nearest = Math.max(2, Math.round(value / 2) * 2);
  return limit !== undefined && nearest > limit ? Math.max(2, Math.floor(limit / 2) * 2) : nearest;
}

/** Whether a frame size has more pixels on a side than the source has, stored or when it is shown, beyond rounding to even. */
export function isBeyond(size: FrameSize, stored: FrameSize, pixelAspect: Rational): boolean {
  const own = fitFrameSize(stored, pixelAspect, null);
  return size.width > Math.max(own.width, stored.width) + 2 || size.height > own.height + 2;
}
