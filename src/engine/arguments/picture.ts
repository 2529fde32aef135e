import type { FrameSize } from '../../core/geometry/frameSize.ts';
import type { Colour } from '../../core/programme/colour.ts';
import type { PicturePlan } from '../../core/rate/encodePlan.ts';
import { framesToSeconds, type Rational } from '../../core/timing/rational.ts';
import { inputFrom } from './input.ts';

/** How pictures are brought to another size, everywhere; stated beside every measurement. */
export const SCALER = 'bicubic';

const SCALER_FLAGS = `${SCALER}+accurate_rnd+full_chroma_int`;

/** The scaler's names for colour matrices differ from the tags' (ITU-T H.273). */
const SCALER_MATRIX: Readonly<Record<string, string>> = {
  bt709: 'bt709',
  bt470bg: 'bt470',
  smpte170m: 'smpte170m',
  smpte240m: 'smpte240m',
  fcc: 'fcc',
  bt2020nc: 'bt2020',
  bt2020c: 'bt2020',
};

/**
 * A scaling filter that leaves nothing to be guessed: an untagged source would be taken as BT.601 even in HD.
 *
 * @param size - null keeps the size.
 * @param from - Matrix and range the pixels are in.
 * @param to - Matrix and range wanted; 'rgb' is full-range RGB.
 */
export function scaleFilter(
  size: FrameSize | null,
  from: { matrix: string; range: 'limited' | 'full' },
  to: { matrix: string; range: 'limited' | 'full' } | 'rgb',
): string {
  const parts = [
    size ? `w=${size.width}:h=${size.height}` : 'w=iw:h=ih',
    `flags=${SCALER_FLAGS}`,
    `in_color_matrix=${SCALER_MATRIX[from.matrix] ?? 'bt709'}`,
    `in_range=${rangeName(from.range)}`,
    to === 'rgb'
      ? 'out_range=pc'
      : `out_color_matrix=${SCALER_MATRIX[to.matrix] ?? 'bt709'}:out_range=${rangeName(to.range)}`,
  ];
  return `scale=${parts.join(':')}`;
}

/** The portion's frames, counted from where the file was opened. */
export function trimFilter(picture: PicturePlan): string {
  const first = picture.seeksExactly ? 0 : picture.inFrame;
  return `trim=start_frame=${first}:end_frame=${first + picture.frameCount}`;
}

/** The tags of the result, set on its frames. */
export function tagFilter(colour: Colour): string {
  return `setparams=range=tv:color_primaries=${colour.primaries}:color_trc=${colour.transfer}:colorspace=${colour.matrix}`;
}

/**
 * The whole way of the picture from the source's frames to the encoder: size, colour, pixel format, time.
 */
export function encodeFilter(picture: PicturePlan): string {
  const { matrix } = picture.colour;
  return [
    // Counting frames at the output instead would end the sound together with the last picture, too early.
    trimFilter(picture),
    scaleFilter(picture.size, { matrix, range: picture.sourceRange }, { matrix, range: 'limited' }),
    'format=yuv420p',
    'setsar=1',
    tagFilter(picture.colour),
    picture.constantRate ? exactTiming(picture.frameRate) : 'settb=1/90000,setpts=PTS-STARTPTS',
  ].join(',');
}

/** Stamps frames afresh at the exact rate, whatever rounding the source's container did to it. */
export function exactTiming(rate: Rational): string {
  return `settb=${rate.den}/${rate.num},setpts=N`;
}

/** Frames read beyond a portion, so that reordering at its end loses none. */
const SPARE_FRAMES = 25;

/** Arguments that open a master where a portion begins and read little more than the portion. */
export function inputPortion(path: string, picture: PicturePlan): string[] {
  const seek = seekSeconds(picture.inFrame, picture.frameRate, picture.startSeconds);
  if (picture.isWhole || !picture.seeksExactly) return inputFrom(path, 0);
  const length = framesToSeconds(picture.frameCount + SPARE_FRAMES, picture.frameRate);
  return ['-t', length.toFixed(6), ...inputFrom(path, seek)];
}

/**
 * Seconds at which to open a file so that the first frame out is the wanted one: half a frame early, so that no
 * rounding of stamps can reach the next.
 *
 * @returns 0 for the first frame.
 */
export function seekSeconds(frame: number, rate: Rational, startSeconds: number): number {
  return frame === 0 ? 0 : startSeconds + ((frame - 0.5) * rate.den) / rate.num;
}

function rangeName(range: 'limited' | 'full'): string {
  return range === 'full' ? 'pc' : 'tv';
}
