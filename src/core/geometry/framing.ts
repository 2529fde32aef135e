import { displaySize, evenFrame, fitFrameSize, isBeyond, type Fit, type FrameSize } from './frameSize.ts';
import { croppedSize, turnedSize, type Edges, type Padding, type Turn } from './preparation.ts';
import { rational, toNumber, type Rational } from '../timing/rational.ts';

/** How a picture comes to its frame size: at most one of them is set; none keeps the source's own, or what cropping leaves of it. */
export interface Framing {
  /** Fits inside a box; the shape is kept. */
  readonly fit: Fit | null;
  /** Fills a frame of this size; what stands out at two sides is cut off, from the middle outwards. */
  readonly fill: FrameSize | null;
  /** Stands whole in a frame of this size, with something beside it. */
  readonly pad: Padding | null;
}

/** The size that a frame is to have exactly; null where the picture's own shape decides. */
export function frameOf({ fill, pad }: Pick<Framing, 'fill' | 'pad'>): FrameSize | null {
  return fill ?? pad;
}

/** What of a recipe decides how much of a picture is left, and which way it stands. */
interface Cropped {
  readonly crop: Edges | null;
  readonly rotate: Turn;
}

/** The stored size that is left of a picture after cropping and turning. */
export function leftOf(stored: FrameSize, { crop, rotate }: Cropped): FrameSize {
  return turnedSize(croppedSize(stored, crop), rotate);
}

/** The same in square pixels, before rounding. */
export function shownOf(stored: FrameSize, pixelAspect: Rational, cropped: Cropped): FrameSize {
  return displaySize(leftOf(stored, cropped), turnedAspect(pixelAspect, cropped.rotate));
}

/**
 * The frame size of a result, both sides even.
 *
 * @param stretch - How much wider than high each stored pixel is made.
 */
export function framedSize(stored: FrameSize, stretch: Rational, picture: Framing & Cropped): FrameSize {
  const frame = frameOf(picture);
  if (frame) return { width: evenBelow(frame.width), height: evenBelow(frame.height) };
  return fitFrameSize(leftOf(stored, picture), turnedAspect(stretch, picture.rotate), picture.fit);
}

/** The size of the picture that stands whole in a frame: it touches two sides of it. */
export function insideOf(frame: FrameSize, picture: FrameSize, stretch: Rational): FrameSize {
  return fitFrameSize(picture, stretch, { ...frame, enlarge: true });
}

/**
 * What is cut off along the sides: what the recipe says, and what stands out of a frame that is filled. Edges stay even, since colour is
 * stored for two by two pixels.
 *
 * @param stretch - How much wider than high each stored pixel is made.
 */
export function cutToFill(
  stored: FrameSize,
  stretch: Rational,
  { crop, rotate, fill }: Pick<Framing, 'fill'> & Cropped,
): Edges | null {
  if (!fill) return crop;
  const left = croppedSize(stored, crop);
  const shown = turnedSize(fill, rotate);
  const shape = shown.width / shown.height / toNumber(stretch);
  const across = cutInTwo(left.width, left.height * shape);
  const down = cutInTwo(left.height, left.width / shape);
  const own = crop ?? { top: 0, bottom: 0, left: 0, right: 0 };
  const edges = {
    top: own.top + down.before,
    bottom: own.bottom + down.after,
    left: own.left + across.before,
    right: own.right + across.after,
  };
  return Object.values(edges).some((edge) => edge > 0) ? edges : null;
}

/** What is cut off at two sides so that about so much is left, each even; something is left of any picture. */
function cutInTwo(side: number, wanted: number): { readonly before: number; readonly after: number } {
  const most = 2 * Math.floor((side - 2) / 2);
  const all = Math.max(0, Math.min(most, 2 * Math.round((side - wanted) / 2)));
  const before = 2 * Math.floor(all / 4);
  return { before, after: all - before };
}

/** Width over height of a pixel, once the picture is turned. */
export function turnedAspect(aspect: Rational, rotate: Turn): Rational {
  return rotate % 180 === 0 ? aspect : rational(aspect.den, aspect.num);
}

/** The same framing at another frame size; what is open about it is settled. */
export function atFrameSize<Picture extends Framing>(picture: Picture, { width, height }: FrameSize): Picture {
  if (picture.fill) return { ...picture, fill: { width, height } };
  if (picture.pad) return { ...picture, pad: { ...picture.pad, width, height } };
  return { ...picture, fit: { width, height } };
}

/** The same framing at so many lines. */
export function atLines<Picture extends Framing>(picture: Picture, height: number): Picture {
  const frame = frameOf(picture);
  if (!frame) return { ...picture, fit: { height } };
  return atFrameSize(picture, { width: evenFrame((height * frame.width) / frame.height, height).width, height });
}

/** The same framing, its frame no larger than a box. */
export function atMostFrame<Picture extends Framing>(picture: Picture, box: FrameSize): Picture {
  const frame = frameOf(picture);
  if (!frame) return picture;
  const scale = Math.min(1, box.width / frame.width, box.height / frame.height);
  return atFrameSize(picture, { width: evenBelow(frame.width * scale), height: evenBelow(frame.height * scale) });
}

/** A picture whose frame another framing gives its size. */
export function framedBy<Picture extends Framing>(picture: Picture, framing: Partial<Framing>): Picture {
  return { ...picture, fit: null, fill: null, pad: null, ...framing };
}

/** The largest frame of a shape that a picture fills without being enlarged. */
export function largestFilled(picture: FrameSize, shape: Rational): FrameSize {
  const wide = toNumber(shape);
  return evenFrame(Math.min(picture.width, picture.height * wide), Math.min(picture.height, picture.width / wide));
}

/** The smallest frame of a shape in which a picture stands whole without being made smaller. */
export function smallestHolding(picture: FrameSize, shape: Rational): FrameSize {
  const wide = toNumber(shape);
  return {
    width: 2 * Math.ceil(Math.max(picture.width, picture.height * wide) / 2 - 1e-6),
    height: 2 * Math.ceil(Math.max(picture.height, picture.width / wide) / 2 - 1e-6),
  };
}

/** The frame of a shape that shows a picture as large as it is: filled by it, or with the whole of it inside. */
export function ownFrame(picture: FrameSize, shape: Rational, isWhole: boolean): FrameSize {
  return isWhole ? smallestHolding(picture, shape) : largestFilled(picture, shape);
}

/** So many times as large a picture is measured at most; larger, it tells nothing more. */
const MOST_ENLARGED = 4;

/**
 * Whether a picture is so much enlarged in a frame that what it takes is not measured.
 *
 * @param left - Of the source, after cropping.
 */
export function isFarBeyond(size: FrameSize, left: FrameSize, pixelAspect: Rational): boolean {
  const largest = { width: left.width * MOST_ENLARGED, height: left.height * MOST_ENLARGED };
  return isBeyond(size, largest, pixelAspect);
}

function evenBelow(side: number): number {
  return Math.max(2, 2 * Math.floor(side / 2 + 1e-6));
}
