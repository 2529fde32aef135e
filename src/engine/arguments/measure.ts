import type { PicturePath } from '../../core/plan/encodePlan.ts';
import type { Sampling } from '../../core/picture/scale.ts';
import type { PairShape } from '../../core/quality/samples.ts';
import { toNumber, type Rational } from '../../core/timing/rational.ts';
import { referenceGraph } from '../filters/picture.ts';
import { renderScale } from '../filters/scale.ts';
import { inputArguments, inputPortion } from './input.ts';
import { QUIET_WITH_PROGRESS } from './progress.ts';

/** File names in the working folder that a measurement writes. */
export const MEASURE_LOGS = { ssim: 'ssim.log', psnr: 'psnr.log' } as const;

/** In the working folder as well: the pipe for the pictures themselves. */
export const PICTURES_PIPE = 'pictures';

/** Two files that are held against each other. */
export interface ComparedFiles {
  readonly master: string;
  readonly result: string;
  /** The result’s frames that the master is held against, where it has others around them. */
  readonly ofResult?: { readonly first: number; readonly count: number };
}

/** Largest sample value of the format two pictures are compared in. */
export function comparePeak({ from }: PicturePath): number {
  return from.bitDepth > 8 ? 1023 : 255;
}

/** What bare pictures are, that a comparison shows. */
export function shapeOfPair({ from, out, comparedAt }: PicturePath): PairShape {
  return { ...comparedAt, bitDepth: from.bitDepth > 8 ? 10 : 8, framesPerSecond: toNumber(out.frameRate) };
}

/**
 * Arguments that compare a result with its master frame by frame, both measures in one decode: the result is scaled
 * to the master's frame size, both are brought to one format, and frames are paired by their number.
 *
 * @param shows - Whether the pictures themselves are written too, result and master in turn, to their pipe.
 */
export function measureArguments(
  path: PicturePath,
  { master, result, ofResult }: ComparedFiles,
  shows: 'nothing' | 'pictures',
): string[] {
  const { from, out, comparedAt } = path;
  const format = from.bitDepth > 8 ? 'yuv420p10le' : 'yuv420p';
  const common: Sampling = { matrix: from.sampling.matrix, range: 'limited' };
  const isShown = shows === 'pictures';
  const split = isShown ? 'split=3' : 'split';
  const bring = (sampling: Sampling) =>
    [
      pairByNumber(out.frameRate),
      renderScale({ size: comparedAt, from: sampling, to: common }),
      `format=${format},setsar=1,${split}`,
    ].join(',');
  const third = (name: string) => (isShown ? `[${name}3]` : '');
  const own = ofResult ? `trim=start_frame=${ofResult.first}:end_frame=${ofResult.first + ofResult.count},` : '';
  const graph = [
    `[0:v:0]${own}${bring({ matrix: out.colour.matrix, range: out.range })}[result1][result2]${third('result')}`,
    `[1:${from.streamIndex}]${referenceGraph(path)},${bring(from.sampling)}[master1][master2]${third('master')}`,
    `[result1][master1]ssim=stats_file=${MEASURE_LOGS.ssim}:shortest=1[ssim]`,
    `[result2][master2]psnr=stats_file=${MEASURE_LOGS.psnr}:shortest=1[psnr]`,
    // Of two that are due at once the first is taken first.
    ...(isShown ? [`[result3][master3]interleave[pairs]`] : []),
  ].join(';');
  return [
    ...QUIET_WITH_PROGRESS,
    ...inputArguments(result),
    ...inputPortion(master, from),
    ...['-filter_complex', graph],
    ...['-map', '[ssim]', '-fps_mode', 'passthrough', '-f', 'null', '-'],
    ...['-map', '[psnr]', '-fps_mode', 'passthrough', '-f', 'null', '-'],
    ...(isShown
      ? ['-map', '[pairs]', '-fps_mode', 'passthrough', '-f', 'rawvideo', '-y', `file:${PICTURES_PIPE}`]
      : []),
  ];
}

function pairByNumber(rate: Rational): string {
  return `settb=AVTB,setpts=N*${rate.den}/${rate.num}/TB`;
}
