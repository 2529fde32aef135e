import { LARGEST_SIDE } from '../../core/geometry/frameSize.ts';

/** Smaller ones are typed by mistake. */
const SMALLEST_TYPED = 32;

/** The sides of a frame as they are typed, such as `854 × 480` or `× 480`; null for what is none. */
export function readSides(text: string): { readonly width?: number; readonly height?: number } | null {
  const match = /^\s*(\d{2,4})?\s*(?:[x×*:]\s*(\d{2,4})?)?\s*$/i.exec(text);
  const [width, height] = [match?.[1], match?.[2]].map((side) => (side === undefined ? undefined : Number(side)));
  const sides = [width, height].filter((side) => side !== undefined);
  if (sides.length === 0 || sides.some((side) => side < SMALLEST_TYPED || side > LARGEST_SIDE)) return null;
  return { ...(width === undefined ? {} : { width }), ...(height === undefined ? {} : { height }) };
}

/** What may be typed, for who typed something else. */
export const SIDES_FAULT = `Type a width and a height from ${SMALLEST_TYPED} to ${LARGEST_SIDE.toLocaleString('en')}, such as`;
