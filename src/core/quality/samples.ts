/** What pictures that are compared have in common: 4:2:0, odd sides of the colours rounded up. */
export interface PairShape {
  readonly width: number;
  readonly height: number;
  /** 8, or 10. */
  readonly bitDepth: number;
  readonly framesPerSecond: number;
}

/** Samples in a plane of luma, and in each of colour. */
export function samplesOf({ width, height }: Pick<PairShape, 'width' | 'height'>): {
  readonly luma: number;
  readonly chroma: number;
} {
  return { luma: width * height, chroma: Math.ceil(width / 2) * Math.ceil(height / 2) };
}

/** Bytes of one sample as pictures are handed over. */
export function bytesOfSample({ bitDepth }: Pick<PairShape, 'bitDepth'>): 1 | 2 {
  return bitDepth > 8 ? 2 : 1;
}

/** Bytes of one picture as it is handed over. */
export function bytesOfPicture(shape: PairShape): number {
  const { luma, chroma } = samplesOf(shape);
  return (luma + 2 * chroma) * bytesOfSample(shape);
}
