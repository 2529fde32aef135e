import { mkdir, rename, rm, stat } from 'node:fs/promises';
import path from 'node:path';
import { runProcess } from '../engine/process/runProcess.ts';
import { demonstrationFootage, type Footage } from './footage.ts';

/** Drawn with this release's graphs; a change draws them anew. */
const FONT = 'node_modules/@fontsource-variable/source-sans-3/files/source-sans-3-latin-wght-normal.woff2';

/**
 * Draws the demonstration's masters that are not there yet, two at a time.
 *
 * @param folder - A media folder.
 * @returns Their paths, in the order of the season.
 */
export async function drawFootage(ffmpeg: string, applicationFolder: string, folder: string): Promise<string[]> {
  await mkdir(folder, { recursive: true });
  const filters = await runProcess({ file: ffmpeg, arguments: ['-hide_banner', '-filters'] });
  const voice = {
    canSpeak: /\bflite\b/.test(filters.stdout.toString('utf8')),
    font: path.join(applicationFolder, FONT),
  };
  const waiting = demonstrationFootage(voice);
  const files = waiting.map((footage) => path.join(folder, footage.file));
  const worker = async () => {
    for (let next = waiting.shift(); next; next = waiting.shift()) await draw(ffmpeg, folder, next);
  };
  await Promise.all([worker(), worker()]);
  return files;
}

async function draw(ffmpeg: string, folder: string, footage: Footage): Promise<void> {
  const target = path.join(folder, footage.file);
  if (await stat(target).catch(() => null)) return;
  const unfinished = path.join(folder, `.${footage.file}.partial`);
  // Dissolves and loops leave crooked stamps; every frame is stamped afresh by its number.
  const graph = footage.rate
    ? `${footage.graph};[drawn]settb=${invert(footage.rate).replace(':', '/')},setpts=N[picture]`
    : footage.graph;
  const picture = footage.rate
    ? [
        ...[
          '-map',
          '[picture]',
          '-c:v',
          'libx264',
          '-preset',
          'ultrafast',
          '-crf',
          '14',
          '-g',
          '12',
          '-pix_fmt',
          'yuv420p',
        ],
        ...['-color_range', 'tv', '-color_primaries', 'bt709', '-color_trc', 'bt709', '-colorspace', 'bt709'],
        ...['-fps_mode', 'passthrough', '-enc_time_base', invert(footage.rate), '-f', 'mov'],
      ]
    : ['-f', 'wav'];
  const result = await runProcess({
    file: ffmpeg,
    arguments: [
      ...['-hide_banner', '-nostdin', '-y', '-loglevel', 'error', '-filter_complex', graph],
      ...['-map', '[sound]', '-c:a', 'pcm_s16le', '-ar', '48000'],
      ...picture,
      `file:${unfinished}`,
    ],
  });
  if (result.exitCode !== 0) {
    await rm(unfinished, { force: true });
    throw new Error(`${footage.file} could not be drawn: ${result.stderr}`);
  }
  await rename(unfinished, target);
}

/** A rate as the engine's time base. */
function invert(rate: string): string {
  return rate.split('/').reverse().join(':');
}
