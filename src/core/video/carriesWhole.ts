import { partsOf, type Chroma, type PixelFormat } from '../picture/store.ts';
import type { ChromaSampling, VideoFacts } from '../programme/facts.ts';

/** What colour is to be stored at least as often as, so that none of it is lost; bare light asks for nothing. */
const STORED_AS: Readonly<Record<ChromaSampling, Chroma>> = {
  '4:0:0': '4:2:0',
  '4:1:1': '4:2:2',
  '4:2:0': '4:2:0',
  '4:2:2': '4:2:2',
  '4:4:0': '4:4:4',
  '4:4:4': '4:4:4',
};

/** Results are of limited range, in which 8 bits hold 220 levels of the 256 of full range (ITU-T H.273); deeper ones hold all. */
function depthFor({ bitDepth, colour }: VideoFacts): number {
  return colour.range === 'full' ? bitDepth + 1 : bitDepth;
}

/** Whether a format stores as much of each pixel as a master has. */
export function carriesWhole(format: PixelFormat, video: VideoFacts): boolean {
  const { chroma, depth, alpha } = partsOf(format);
  const wanted = STORED_AS[video.chroma ?? '4:2:0'];
  return chroma >= wanted && depth >= depthFor(video) && (alpha || !video.alpha);
}

/**
 * The format that stores a master’s pixels whole.
 *
 * @param formats - Of a codec, rising; at least one.
 * @returns The first that does, or where none does, the richest that keeps as much transparency as there is.
 */
export function formatForWhole(formats: readonly PixelFormat[], video: VideoFacts): PixelFormat {
  const richest = formats.findLast((format) => partsOf(format).alpha === video.alpha) ?? formats.at(-1)!;
  return formats.find((format) => carriesWhole(format, video)) ?? richest;
}
