import type { FrameSize } from '../geometry/frameSize.ts';
import { toNumber, type Rational } from '../timing/rational.ts';

/** Even frame sizes are a little off. */
const SHAPE_TOLERANCE = 0.02;

/** Rates are written in several ways: 59.94 for 60000/1001. */
const RATE_TOLERANCE = 1.001;

/** Width to height, as a picture is shown. */
export function shownShape({ width, height }: FrameSize, pixelAspect: Rational): number {
  return (width * pixelAspect.num) / (height * pixelAspect.den);
}

/** Whether a picture has the shape that is asked for. */
export function isShape(found: number, shape: Rational): boolean {
  return Math.abs(found / toNumber(shape) - 1) <= SHAPE_TOLERANCE;
}

/** Whether frames come no quicker than is asked for. */
export function isWithinRate(framesPerSecond: number, most: Rational): boolean {
  return framesPerSecond <= toNumber(most) * RATE_TOLERANCE;
}
