import { closeSync, openSync, readSync } from 'node:fs';
import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { pictureOf } from '../../src/core/plan/encodePlan.ts';
import { createPictureSums } from '../../src/core/quality/pictureSums.ts';
import { bytesOfPicture } from '../../src/core/quality/samples.ts';
import { createWeigher } from '../../src/core/quality/xpsnr.ts';
import { atQuality, plainVideo, STARTING_RECIPE, type Recipe, OWN_PICTURE } from '../../src/core/recipe/recipe.ts';
import { RATED } from '../../src/core/video/codecs.ts';
import type { Application } from '../../src/server/application.ts';
import { takeIn } from '../../src/server/programmes/programmes.ts';
import { drawMaster } from '../../tests/support/footage.ts';
import { render } from './renditions.ts';
import { runFfmpeg } from './runFfmpeg.ts';
import { timeOf } from './timing.ts';

const HD = { width: 1920, height: 1080, bitDepth: 8, framesPerSecond: 25 } as const;
const SECONDS = 8;

const KINDS = [
  ['h264', 'fast'],
  ['h264', 'balanced'],
  ['hevc', 'fast'],
  ['vp9', 'fast'],
] as const;

/** Comparing results with their master against encoding them, at 1080 lines; and XPSNR alone against the engine's SSIM. */
export async function benchComparing(app: Application): Promise<void> {
  console.log('\nComparing against encoding, 1920 × 1080 at constant quality');
  const folder = await mkdtemp(path.join(tmpdir(), 'linstock-bench-comparing-'));
  const { context } = app;
  const file = path.join(context.config.mediaFolders[0]!, 'comparing.mov');
  const master = await takeIn(context, drawMaster(file, { seconds: SECONDS, size: '1920x1080', grain: 6 }));
  const options = { workingFolder: folder, signal: new AbortController().signal, onProgress: () => undefined };
  for (const [codec, effort] of KINDS) {
    const video = plainVideo(codec, atQuality(codec === 'vp9' ? 34 : 24), effort);
    const recipe: Recipe = {
      ...{ ...STARTING_RECIPE, video, audio: null, picture: OWN_PICTURE },
      container: RATED[codec].containers[0]!,
    };
    const made = await render(app, master, recipe);
    const picture = pictureOf(made.plan)!;
    const results = [{ picture, file: made.path }] as const;
    await context.engine.compare(master.path, results, options);
    const comparing = await timeOf(() => context.engine.compare(master.path, results, options));
    const encoding = made.encodeSeconds ?? NaN;
    console.log(
      `${codec} ${effort}: encoding ${encoding.toFixed(1)} s, comparing ${comparing.toFixed(1)} s (${((100 * comparing) / encoding).toFixed(0)} %)`,
    );
  }
  await benchWeighing(folder);
  await rm(folder, { recursive: true, force: true });
}

const PICTURES = 60;

/** Both over the same bare pictures, each on one core, without what reading them costs. */
async function benchWeighing(folder: string): Promise<void> {
  const names = ['master.yuv', 'result.yuv'].map((name) => path.join(folder, name));
  for (const [index, name] of names.entries()) {
    const source = `testsrc2=s=1920x1080:r=25,noise=alls=${8 + index * 8}:allf=t`;
    runFfmpeg(['-f', 'lavfi', '-i', source, '-frames:v', String(PICTURES), ...RAW, name]);
  }
  const inputs = names.flatMap((name) => [...RAW, '-s', '1920x1080', '-i', name]);
  const timed = (what: readonly string[]) =>
    timeOf(() => Promise.resolve(runFfmpeg([...inputs, '-filter_threads', '1', ...what, '-f', 'null', '-'])));
  const reading = await timed(['-map', '0:v', '-map', '1:v']);
  const ssim = (await timed(['-lavfi', '[0:v][1:v]ssim'])) - reading;
  const xpsnr = weighAll(names);
  console.log(
    `${PICTURES} pictures: the engine’s SSIM ${ssim.toFixed(2)} s, XPSNR ${xpsnr.toFixed(2)} s (× ${(ssim / xpsnr).toFixed(2)} as fast)`,
  );
}

const RAW = ['-f', 'rawvideo', '-pix_fmt', 'yuv420p'];

/** @returns Seconds that weighing took, of all pictures. */
function weighAll(names: readonly string[]): number {
  const size = bytesOfPicture(HD);
  const sums = createPictureSums(size * 4, 1);
  const weigh = createWeigher(HD, sums);
  const memory = new Uint8Array(sums.memory);
  const [masters, results] = names.map((name) => openSync(name, 'r')) as [number, number];
  let seconds = 0;
  for (let at = 0; at < PICTURES; at += 1) {
    const [place, before] = [size * (at % 3), size * ((at + 2) % 3)];
    readSync(masters, memory, place, size, at * size);
    readSync(results, memory, size * 3, size, at * size);
    const began = performance.now();
    weigh({ master: place, before: at > 0 ? before : null, beforeThat: null }, [size * 3]);
    seconds += (performance.now() - began) / 1000;
  }
  [masters, results].forEach(closeSync);
  return seconds;
}
