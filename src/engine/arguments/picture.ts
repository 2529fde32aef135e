import type { FrameSize } from '../../core/geometry/frameSize.ts';
import type { FieldOrder, Preparation } from '../../core/geometry/preparation.ts';
import type { Colour } from '../../core/programme/colour.ts';
import type { Opening } from '../../core/programme/opening.ts';
import type { PicturePlan } from '../../core/rate/encodePlan.ts';
import type { Rational } from '../../core/timing/rational.ts';
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

/** The portion's frames, counted from where the file was opened and what is skipped there ends. */
export function trimFilter({ opening, inFrame, frameCount }: PicturePlan): string {
  const first = opening ? 0 : inFrame;
  const trim = `trim=start_frame=${first}:end_frame=${first + frameCount}`;
  return [...(opening ? skipFilters(opening) : []), trim].join(',');
}

/** What leaves out the frames before the wanted one in a file that was opened early; empty where none are. */
export function skipFilters({ skipSeconds }: Opening): string[] {
  return skipSeconds > 0 ? [`trim=start=${skipSeconds.toFixed(9)}`] : [];
}

/** What makes a master's frames ready to be scaled or compared; empty when nothing is to be done. */
export function prepareFilters({ deinterlace, crop }: Preparation): string[] {
  const filters = deinterlace ? [`bwdif=mode=send_frame:parity=${PARITY[deinterlace]}:deint=all`] : [];
  if (!crop) return filters;
  const { top, bottom, left, right } = crop;
  return [...filters, `crop=w=iw-${left + right}:h=ih-${top + bottom}:x=${left}:y=${top}:exact=1`];
}

const PARITY: Readonly<Record<FieldOrder, string>> = { 'top-first': 'tff', 'bottom-first': 'bff' };

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
    ...prepareFilters(picture.preparation),
    scaleFilter(picture.size, { matrix, range: picture.sourceRange }, { matrix, range: 'limited' }),
    'format=yuv420p',
    'setsar=1',
    tagFilter(picture.colour),
    resultTiming(picture),
  ].join(',');
}

/** Frames of a constant rate are stamped afresh; those of a variable one keep their times, counted from the first. */
export function resultTiming({ constantRate, frameRate }: PicturePlan): string {
  // Two frames at one time would lose one of them in the encoder.
  return constantRate ? exactTiming(frameRate) : 'settb=1/90000,setpts=if(N\\,max(PTS-STARTPTS\\,PREV_OUTPTS+1)\\,0)';
}

/** Options that keep those stamps through the encoder. */
export function timedOutput(picture: PicturePlan): string[] {
  const { constantRate, frameRate } = picture;
  const timeBase = constantRate ? `${frameRate.den}:${frameRate.num}` : '1:90000';
  return ['-fps_mode', 'passthrough', '-enc_time_base', timeBase, ...heldLastFrame(picture)];
}

/** Option that keeps the last frame of a variable rate as long as it was; none at a constant rate. */
export function heldLastFrame({ constantRate, frameCount, lastFrame }: PicturePlan): string[] {
  if (constantRate) return [];
  const [last, end] = [lastFrame.atSeconds, lastFrame.endSeconds].map((seconds) => Math.round(seconds * 90_000));
  // Encoders give no durations, and the container then takes the last frame for as long as the one before. The last
  // packet may hold an earlier frame; it must not end later.
  const duration = `if(gte(PTS\\,${last})+eq(N\\,${frameCount - 1})\\,${end}-max(PTS\\,${last})\\,DURATION)`;
  return ['-bsf:v', `setts=pts=PTS:dts=DTS:duration=${duration}`];
}

/** Stamps frames afresh at the exact rate, whatever rounding the source's container did to it. */
export function exactTiming(rate: Rational): string {
  return `settb=${rate.den}/${rate.num},setpts=N`;
}

/** Arguments that open a master where a portion begins and read little more than the portion. */
export function inputPortion(path: string, { opening }: PicturePlan): string[] {
  if (!opening) return inputFrom(path, 0);
  return ['-t', opening.seconds.toFixed(6), ...inputFrom(path, opening.atSeconds)];
}

function rangeName(range: 'limited' | 'full'): string {
  return range === 'full' ? 'pc' : 'tv';
}
