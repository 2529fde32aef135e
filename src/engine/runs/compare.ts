import path from 'node:path';
import type { PairMeasures } from '../../core/quality/pairReader.ts';
import { compareArguments, PICTURES_PIPE, shapeOfPair, type ComparedResult } from '../arguments/compare.ts';
import type { RunOptions } from '../engine.ts';
import type { PairThreads } from '../process/pairThreads.ts';
import { openPicturePipe } from '../process/picturePipe.ts';
import { encode } from './encode.ts';
import type { EnginePaths } from './limits.ts';

/**
 * What the bare pictures of results tell beside their master's, in one decode of each.
 *
 * @throws What the engine's run throws; what the thread throws, where it cannot go on.
 */
export async function comparePictures(
  paths: EnginePaths,
  threads: PairThreads,
  master: string,
  results: readonly [ComparedResult, ...ComparedResult[]],
  options: RunOptions,
): Promise<readonly (readonly PairMeasures[])[]> {
  const pipe = await openPicturePipe(path.join(options.workingFolder, PICTURES_PIPE));
  const shape = shapeOfPair(results[0].picture);
  const pairs = threads.read({ pipe: pipe.file, shape, results: results.length });
  // What comes out are the pictures of all.
  const [ofAll, perMoment] = [options.onProgress, results.length + 1];
  const onProgress: typeof ofAll = ({ frame, framesPerSecond, ...rest }) =>
    ofAll({
      ...rest,
      frame: Math.floor(frame / perMoment),
      framesPerSecond: framesPerSecond === null ? null : framesPerSecond / perMoment,
    });
  // Whoever writes waits as long as nobody reads.
  const unread = new AbortController();
  pairs.found.catch(() => unread.abort());
  const signal = AbortSignal.any([options.signal, unread.signal]);
  try {
    await encode(paths, compareArguments(master, results), { ...options, onProgress, signal });
  } catch (error) {
    if (unread.signal.aborted) await pairs.found;
    throw error;
  } finally {
    // A run that failed before it wrote anything would leave the other end waiting.
    await pairs.open;
    await pipe.close();
  }
  return pairs.found;
}
