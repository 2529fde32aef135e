import { COMMON_HEIGHTS, fitFrameSize, type FrameSize } from '../geometry/frameSize.ts';
import { rational } from '../timing/rational.ts';

/** At the coarsest quantiser bytes go nearly with the area; a margin covers the rest. */
const MARGIN = 1.2;

/**
 * The largest common frame size whose floor should lie under a cap, judged from the smallest file reached at the
 * present one.
 *
 * @param present - In square pixels.
 * @param smallestVideo - Bytes of the picture in that smallest file.
 * @param allowedVideo - Bytes the cap leaves for the picture.
 * @returns null when no common size would do.
 */
export function suggestFrameSize(present: FrameSize, smallestVideo: number, allowedVideo: number): FrameSize | null {
  for (const height of [...COMMON_HEIGHTS, 240, 180]) {
    if (height >= present.height) continue;
    const size = fitFrameSize(present, rational(1, 1), { height });
    const share = (size.width * size.height) / (present.width * present.height);
    if (smallestVideo * share * MARGIN <= allowedVideo) return size;
  }
  return null;
}
