import type { PicturePlan } from '../../core/rate/encodePlan.ts';
import type { Rational } from '../../core/timing/rational.ts';
import { QUIET_WITH_PROGRESS } from './encode.ts';
import { inputArguments } from './input.ts';
import { inputPortion, prepareFilters, scaleFilter, trimFilter } from './picture.ts';

/** File names in the working folder that a measurement writes. */
export const MEASURE_LOGS = { ssim: 'ssim.log', psnr: 'psnr.log' } as const;

/** Largest sample value of the format two pictures are compared in. */
export function comparePeak(picture: PicturePlan): number {
  return picture.bitDepth > 8 ? 1023 : 255;
}

/**
 * Arguments that compare a result with its master frame by frame, both measures in one decode: the result is scaled
 * to the master's frame size, both are brought to one format, and frames are paired by their number.
 */
export function measureArguments(picture: PicturePlan, master: string, result: string): string[] {
  const format = picture.bitDepth > 8 ? 'yuv420p10le' : 'yuv420p';
  const { matrix } = picture.colour;
  const common = { matrix, range: 'limited' } as const;
  const prepare = (from: 'limited' | 'full') =>
    [
      pairByNumber(picture.frameRate),
      scaleFilter(picture.sourceSize, { matrix, range: from }, common),
      `format=${format},setsar=1,split`,
    ].join(',');
  const graph = [
    `[0:v:0]${prepare('limited')}[result1][result2]`,
    `[1:${picture.streamIndex}]${[trimFilter(picture), ...prepareFilters(picture.preparation), prepare(picture.sourceRange)].join(',')}[master1][master2]`,
    `[result1][master1]ssim=stats_file=${MEASURE_LOGS.ssim}:shortest=1[ssim]`,
    `[result2][master2]psnr=stats_file=${MEASURE_LOGS.psnr}:shortest=1[psnr]`,
  ].join(';');
  return [
    ...QUIET_WITH_PROGRESS,
    ...inputArguments(result),
    ...inputPortion(master, picture),
    ...['-filter_complex', graph],
    ...['-map', '[ssim]', '-fps_mode', 'passthrough', '-f', 'null', '-'],
    ...['-map', '[psnr]', '-fps_mode', 'passthrough', '-f', 'null', '-'],
  ];
}

function pairByNumber(rate: Rational): string {
  return `settb=AVTB,setpts=N*${rate.den}/${rate.num}/TB`;
}
