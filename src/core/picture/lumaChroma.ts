/** A colour as it is stored, in steps of eight bits and limited range: luma from 16 to 235, and two differences around 128. */
export interface LumaChroma {
  readonly y: number;
  readonly cb: number;
  readonly cr: number;
}

/** Red, green and blue, each from 0 to 255. */
export type Rgb = readonly [number, number, number];

/** Weights of red and blue in luma. */
export type LumaWeights = readonly [red: number, blue: number];

/** ITU-R BT.601, BT.709, BT.2020. */
const WEIGHTS: Readonly<Record<string, LumaWeights>> = {
  bt709: [0.2126, 0.0722],
  smpte170m: [0.299, 0.114],
  bt470bg: [0.299, 0.114],
  bt2020nc: [0.2627, 0.0593],
};

/** The weights of a matrix by its name in ITU-T H.273; those of HD for one that is not known. */
export function weightsOf(matrix: string): LumaWeights {
  return WEIGHTS[matrix] ?? WEIGHTS['bt709']!;
}

/** Red, green and blue of a stored colour (ITU-T H.273, equations 8.2 and on). */
export function toRgb({ y, cb, cr }: LumaChroma, [red, blue]: LumaWeights): Rgb {
  const luma = ((y - 16) * 255) / 219;
  const r = luma + (2 * (1 - red) * (cr - 128) * 255) / 224;
  const b = luma + (2 * (1 - blue) * (cb - 128) * 255) / 224;
  return [r, (luma - red * r - blue * b) / (1 - red - blue), b];
}

/** How red, green and blue are stored, before rounding. */
export function fromRgb([r, g, b]: Rgb, [red, blue]: LumaWeights): LumaChroma {
  const luma = red * r + (1 - red - blue) * g + blue * b;
  return {
    y: 16 + (luma * 219) / 255,
    cb: 128 + ((b - luma) * 224) / (2 * (1 - blue) * 255),
    cr: 128 + ((r - luma) * 224) / (2 * (1 - red) * 255),
  };
}

/**
 * A colour as people write it.
 *
 * @param colour - `#rrggbb`.
 */
export function readColour(colour: string): Rgb {
  const [r = 0, g = 0, b = 0] = [1, 3, 5].map((at) => Number.parseInt(colour.slice(at, at + 2), 16));
  return [r, g, b];
}
