import type { PicturePath } from '../../core/plan/encodePlan.ts';
import type { Sampling } from '../../core/picture/scale.ts';
import type { Rational } from '../../core/timing/rational.ts';
import { referenceGraph } from '../filters/picture.ts';
import { renderScale } from '../filters/scale.ts';
import { inputArguments, inputPortion } from './input.ts';
import { QUIET_WITH_PROGRESS } from './progress.ts';

/** File names in the working folder that a measurement writes. */
export const MEASURE_LOGS = { ssim: 'ssim.log', psnr: 'psnr.log' } as const;

/** Largest sample value of the format two pictures are compared in. */
export function comparePeak({ from }: PicturePath): number {
  return from.bitDepth > 8 ? 1023 : 255;
}

/**
 * Arguments that compare a result with its master frame by frame, both measures in one decode: the result is scaled
 * to the master's frame size, both are brought to one format, and frames are paired by their number.
 */
export function measureArguments(path: PicturePath, master: string, result: string): string[] {
  const { from, out, comparedAt } = path;
  const format = from.bitDepth > 8 ? 'yuv420p10le' : 'yuv420p';
  const common: Sampling = { matrix: from.sampling.matrix, range: 'limited' };
  const bring = (sampling: Sampling) =>
    [
      pairByNumber(from.frameRate),
      renderScale({ size: comparedAt, from: sampling, to: common }),
      `format=${format},setsar=1,split`,
    ].join(',');
  const graph = [
    `[0:v:0]${bring({ matrix: out.colour.matrix, range: out.range })}[result1][result2]`,
    `[1:${from.streamIndex}]${referenceGraph(path)},${bring(from.sampling)}[master1][master2]`,
    `[result1][master1]ssim=stats_file=${MEASURE_LOGS.ssim}:shortest=1[ssim]`,
    `[result2][master2]psnr=stats_file=${MEASURE_LOGS.psnr}:shortest=1[psnr]`,
  ].join(';');
  return [
    ...QUIET_WITH_PROGRESS,
    ...inputArguments(result),
    ...inputPortion(master, from),
    ...['-filter_complex', graph],
    ...['-map', '[ssim]', '-fps_mode', 'passthrough', '-f', 'null', '-'],
    ...['-map', '[psnr]', '-fps_mode', 'passthrough', '-f', 'null', '-'],
  ];
}

function pairByNumber(rate: Rational): string {
  return `settb=AVTB,setpts=N*${rate.den}/${rate.num}/TB`;
}
