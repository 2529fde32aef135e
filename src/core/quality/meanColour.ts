/** Mean red, green and blue of a picture, 0 to 255. */
export type MeanColour = readonly [red: number, green: number, blue: number];

/**
 * Mean colour of bare RGB bytes.
 *
 * @param pixels - Three bytes a pixel; at least one pixel.
 */
export function meanColour(pixels: Uint8Array): MeanColour {
  const sums = [0, 0, 0];
  for (let index = 0; index + 2 < pixels.length; index += 3) {
    sums[0]! += pixels[index]!;
    sums[1]! += pixels[index + 1]!;
    sums[2]! += pixels[index + 2]!;
  }
  const count = Math.max(1, Math.floor(pixels.length / 3));
  return [sums[0]! / count, sums[1]! / count, sums[2]! / count];
}

/** The largest difference of any of the three. */
export function colourDistance(a: MeanColour, b: MeanColour): number {
  return Math.max(...a.map((value, index) => Math.abs(value - b[index]!)));
}
