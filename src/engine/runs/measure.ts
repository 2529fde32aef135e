import { readFile, rm } from 'node:fs/promises';
import path from 'node:path';
import type { FrameQuality } from '../../core/quality/frameQuality.ts';
import {
  measureArguments,
  measureLogs,
  PICTURES_PIPE,
  shapeOfPair,
  type ComparedResult,
} from '../arguments/measure.ts';
import type { ComparedFrame, RunOptions } from '../engine.ts';
import { parseQualityLogs } from '../parsing/qualityLogs.ts';
import type { PairThreads } from '../process/pairThreads.ts';
import { openPicturePipe } from '../process/picturePipe.ts';
import { encode } from './encode.ts';
import type { EnginePaths } from './limits.ts';

/** SSIM and PSNR of every frame. */
export async function measurePictures(
  paths: EnginePaths,
  master: string,
  result: ComparedResult,
  options: RunOptions,
): Promise<FrameQuality[]> {
  await encode(paths, measureArguments(master, [result], 'nothing'), options);
  return readLogs(0, options);
}

/** The same of several results, and what the bare pictures tell besides, in one decode. */
export async function comparePictures(
  paths: EnginePaths,
  threads: PairThreads,
  master: string,
  results: readonly [ComparedResult, ...ComparedResult[]],
  options: RunOptions,
): Promise<ComparedFrame[][]> {
  const pipe = await openPicturePipe(path.join(options.workingFolder, PICTURES_PIPE));
  const shape = shapeOfPair(results[0].picture);
  const pairs = threads.read({ pipe: pipe.file, shape, results: results.length });
  try {
    await encode(paths, measureArguments(master, results, 'pictures'), options);
  } finally {
    // A run that failed before it wrote anything would leave the other end waiting.
    await pairs.open;
    await pipe.close();
  }
  const found = await pairs.found;
  const logged = await Promise.all(results.map((_, index) => readLogs(index, options)));
  return logged.map((frames, index) => {
    const measured = found[index] ?? [];
    return frames.slice(0, measured.length).map((frame, at) => ({ ...frame, ...measured[at]! }));
  });
}

async function readLogs(index: number, { workingFolder }: RunOptions): Promise<FrameQuality[]> {
  const logs = Object.values(measureLogs(index)).map((name) => path.join(workingFolder, name));
  const [ssim, psnr] = await Promise.all(logs.map((log) => readFile(log, 'utf8')));
  await Promise.all(logs.map((log) => rm(log)));
  return parseQualityLogs(ssim ?? '', psnr ?? '');
}
