import { readFile, rm } from 'node:fs/promises';
import path from 'node:path';
import type { PicturePath } from '../../core/plan/encodePlan.ts';
import type { FrameQuality } from '../../core/quality/frameQuality.ts';
import {
  MEASURE_LOGS,
  measureArguments,
  PICTURES_PIPE,
  shapeOfPair,
  type ComparedFiles,
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
  picture: PicturePath,
  files: ComparedFiles,
  options: RunOptions,
): Promise<FrameQuality[]> {
  await encode(paths, measureArguments(picture, files, 'nothing'), options);
  return readLogs(options);
}

/** The same, and what the bare pictures tell besides, in one decode. */
export async function comparePictures(
  paths: EnginePaths,
  threads: PairThreads,
  picture: PicturePath,
  files: ComparedFiles,
  options: RunOptions,
): Promise<ComparedFrame[]> {
  const pipe = await openPicturePipe(path.join(options.workingFolder, PICTURES_PIPE));
  const pairs = threads.read(pipe.file, shapeOfPair(picture));
  try {
    await encode(paths, measureArguments(picture, files, 'pictures'), options);
  } finally {
    // A run that failed before it wrote anything would leave the other end waiting.
    await pairs.open;
    await pipe.close();
  }
  const measured = await pairs.found;
  const frames = await readLogs(options);
  return frames.slice(0, measured.length).map((frame, index) => ({ ...frame, ...measured[index]! }));
}

async function readLogs({ workingFolder }: RunOptions): Promise<FrameQuality[]> {
  const logs = Object.values(MEASURE_LOGS).map((name) => path.join(workingFolder, name));
  const [ssim, psnr] = await Promise.all(logs.map((log) => readFile(log, 'utf8')));
  await Promise.all(logs.map((log) => rm(log)));
  return parseQualityLogs(ssim ?? '', psnr ?? '');
}
