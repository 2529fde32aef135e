import type { PicturePath } from '../../core/plan/encodePlan.ts';
import { referenceSampling, unpadding } from '../../core/picture/chain.ts';
import type { Sampling } from '../../core/picture/scale.ts';
import type { PairShape } from '../../core/quality/samples.ts';
import { toNumber, type Rational } from '../../core/timing/rational.ts';
import { referenceGraph, renderChain } from '../filters/picture.ts';
import { renderScale } from '../filters/scale.ts';
import { inputArguments, inputPortion } from './input.ts';
import { QUIET_WITH_PROGRESS } from './progress.ts';

/** In the working folder: the pipe for the pictures that are compared. */
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
 * Arguments that show results and their master frame by frame, in one decode of each: every result is scaled to the master's frame
 * size, all are brought to one format, frames are paired by their number, and what is bare picture then goes into the pipe, the results
 * in turn and the master after them.
 *
 * @param results - Of the same frames of the master, which come to them in the same way but for their frame sizes.
 */
export function compareArguments(master: string, results: readonly [ComparedResult, ...ComparedResult[]]): string[] {
  const path = results[0].picture;
  const { from, out, comparedAt } = path;
  const format = from.bitDepth > 8 ? 'yuv420p10le' : 'yuv420p';
  const reference = referenceSampling(path.chain, from.sampling);
  const common: Sampling = { matrix: reference.matrix, range: 'limited' };
  const bring = (sampling: Sampling) =>
    [
      countFrames(out.frameRate),
      renderScale({ size: comparedAt, from: sampling, to: common }),
      `format=${format},setsar=1`,
    ].join(',');
  const graph = [
    `[0:${from.streamIndex}]${referenceGraph(path)},${bring(reference)}[master]`,
    ...results.map(({ picture, only }, index) => {
      const own = only ? `trim=start_frame=${only.first}:end_frame=${only.first + only.count},` : '';
      const inside = renderChain(unpadding(picture.chain)).map((filter) => `${filter},`);
      return `[${index + 1}:v:0]${own}${ONE_MORE},${inside.join('')}${bring({ matrix: picture.out.colour.matrix, range: picture.out.range })}[${index}]`;
    }),
    // Of those that are due at once the first is taken first; then each has a time of its own, as a file wants it.
    `${results.map((_, index) => `[${index}]`).join('')}[master]interleave=nb_inputs=${results.length + 1}:duration=shortest,settb=AVTB,setpts=N[pairs]`,
  ].join(';');
  return [
    ...QUIET_WITH_PROGRESS,
    ...inputPortion(master, from),
    ...results.flatMap(({ file }) => inputArguments(file)),
    ...['-filter_complex', graph],
    ...['-map', '[pairs]', '-fps_mode', 'passthrough', '-f', 'rawvideo', '-y', `file:${PICTURES_PIPE}`],
  ];
}

/** The first to end is told before the last of the others has come, so results show their last frame twice. */
const ONE_MORE = 'tpad=stop=1:stop_mode=clone';

function countFrames(rate: Rational): string {
  return `settb=AVTB,setpts=N*${rate.den}/${rate.num}/TB`;
}
