import type { PicturePath } from '../../core/plan/encodePlan.ts';
import type { Sampling } from '../../core/picture/scale.ts';
import type { PairShape } from '../../core/quality/samples.ts';
import { toNumber, type Rational } from '../../core/timing/rational.ts';
import { referenceGraph } from '../filters/picture.ts';
import { renderScale } from '../filters/scale.ts';
import { inputArguments, inputPortion } from './input.ts';
import { QUIET_WITH_PROGRESS } from './progress.ts';

/** File names in the working folder that a measurement writes, of each result. */
export function measureLogs(index: number) {
  return { ssim: `ssim-${index}.log`, psnr: `psnr-${index}.log` } as const;
}

/** In the working folder as well: the pipe for the pictures themselves. */
export const PICTURES_PIPE = 'pictures';

/** A result that is held against its master. */
export interface ComparedResult {
  /** How it came about. */
  readonly picture: PicturePath;
  readonly file: string;
  /** Its frames that are meant, where it has others around them. */
  readonly only?: { readonly first: number; readonly count: number };
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
 * Arguments that compare results with their master frame by frame, all measures in one decode: each result is scaled
 * to the master's frame size, all are brought to one format, and frames are paired by their number.
 *
 * @param results - Of the same frames of the master, which come to them in the same way but for their frame sizes.
 * @param shows - Whether the pictures themselves are written too, results and master in turn, to their pipe.
 */
export function measureArguments(
  master: string,
  results: readonly [ComparedResult, ...ComparedResult[]],
  shows: 'nothing' | 'pictures',
): string[] {
  const path = results[0].picture;
  const { from, out, comparedAt } = path;
  const format = from.bitDepth > 8 ? 'yuv420p10le' : 'yuv420p';
  const common: Sampling = { matrix: from.sampling.matrix, range: 'limited' };
  const isShown = shows === 'pictures';
  const bring = (sampling: Sampling) =>
    [
      pairByNumber(out.frameRate),
      renderScale({ size: comparedAt, from: sampling, to: common }),
      `format=${format},setsar=1`,
    ].join(',');
  const shown = (name: string) => (isShown ? [`[shown-${name}]`] : []);
  const split = (labels: readonly string[]) => `split=${labels.length}${labels.join('')}`;
  const graph = [
    `[0:${from.streamIndex}]${referenceGraph(path)},${bring(from.sampling)},${split([
      ...results.flatMap((_, index) => [`[master-ssim-${index}]`, `[master-psnr-${index}]`]),
      ...shown('master'),
    ])}`,
    ...results.flatMap(({ picture, only }, index) => {
      const own = only ? `trim=start_frame=${only.first}:end_frame=${only.first + only.count},` : '';
      const sampling = { matrix: picture.out.colour.matrix, range: picture.out.range };
      const labels = [`[result-ssim-${index}]`, `[result-psnr-${index}]`, ...shown(`${index}`)];
      const { ssim, psnr } = measureLogs(index);
      return [
        `[${index + 1}:v:0]${own}${bring(sampling)},${split(labels)}`,
        `[result-ssim-${index}][master-ssim-${index}]ssim=stats_file=${ssim}:shortest=1[ssim-${index}]`,
        `[result-psnr-${index}][master-psnr-${index}]psnr=stats_file=${psnr}:shortest=1[psnr-${index}]`,
      ];
    }),
    // Of those that are due at once the first is taken first.
    ...(isShown
      ? [
          `${results.map((_, index) => `[shown-${index}]`).join('')}[shown-master]interleave=nb_inputs=${results.length + 1}[pairs]`,
        ]
      : []),
  ].join(';');
  return [
    ...QUIET_WITH_PROGRESS,
    ...inputPortion(master, from),
    ...results.flatMap(({ file }) => inputArguments(file)),
    ...['-filter_complex', graph],
    ...results.flatMap((_, index) =>
      ['ssim', 'psnr'].flatMap((name) => ['-map', `[${name}-${index}]`, '-fps_mode', 'passthrough', '-f', 'null', '-']),
    ),
    ...(isShown
      ? ['-map', '[pairs]', '-fps_mode', 'passthrough', '-f', 'rawvideo', '-y', `file:${PICTURES_PIPE}`]
      : []),
  ];
}

function pairByNumber(rate: Rational): string {
  return `settb=AVTB,setpts=N*${rate.den}/${rate.num}/TB`;
}
