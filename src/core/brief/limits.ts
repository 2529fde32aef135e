import { toNumber, type Rational } from '../timing/rational.ts';

/** Even frame sizes are a little off. */
const SHAPE_TOLERANCE = 0.02;

/** Whether a picture has the shape that is asked for. */
export function isShape(found: number, shape: Rational): boolean {
  return Math.abs(found / toNumber(shape) - 1) <= SHAPE_TOLERANCE;
}
