import { copyFile, readFile, rm } from 'node:fs/promises';
import path from 'node:path';
import { partsOf } from '../../core/picture/store.ts';
import type { PicturePath } from '../../core/plan/encodePlan.ts';
import type { GaugedStretch } from '../../core/sounding/sounding.ts';
import { gaugeArguments, gaugeFiles, gaugeFirstPass, inTurns } from '../arguments/gauge.ts';
import { STATISTICS } from '../encoders/encoder.ts';
import type { GaugeRequest, RunOptions } from '../engine.ts';
import { parseGauge } from '../parsing/gauge.ts';
import { encode } from './encode.ts';
import type { EnginePaths } from './limits.ts';

/**
 * Encodes a stretch quickly at several constant qualities in one decode, or as a master; where a quality takes two passes,
 * one decode more, as the first is the same for all.
 *
 * @returns What it took at each quality, in the order given.
 */
export async function gauge(
  paths: EnginePaths,
  picture: PicturePath,
  request: GaugeRequest,
  source: string,
  options: RunOptions,
): Promise<GaugedStretch[]> {
  const hasSecondPicture = 'codec' in request && partsOf(picture.out.format).alpha;
  const fileOf = (name: string) => path.join(options.workingFolder, name);
  const turns = inTurns(picture, request);
  const firstPass = gaugeFirstPass(picture, request, source);
  const statistics = firstPass ? statisticsOf(Math.max(...turns.map((turn) => gaugeFiles(turn).length))) : [];
  if (firstPass) {
    await encode(paths, firstPass, options);
    const [first = '', ...others] = statistics;
    for (const other of others) await copyFile(fileOf(first), fileOf(other));
  }
  const gauged: GaugedStretch[] = [];
  for (const turn of turns) {
    await encode(paths, gaugeArguments(picture, turn, source), options);
    const files = gaugeFiles(turn).map(fileOf);
    const lists = await Promise.all(files.map((file) => readFile(file, 'utf8')));
    await Promise.all(files.map((file) => rm(file)));
    gauged.push(...lists.map((list) => parseGauge(list, hasSecondPicture)));
  }
  await Promise.all(statistics.map((name) => rm(fileOf(name))));
  return gauged;
}

/** Where each of so many encoders beside each other looks for what the first pass wrote. */
function statisticsOf(count: number): string[] {
  return Array.from({ length: count }, (_, index) => `${STATISTICS}-${index}.log`);
}
