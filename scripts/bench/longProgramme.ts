import { existsSync, mkdirSync, rmSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import * as scenes from '../../src/demo/scenes.ts';
import type { Scene } from '../../src/demo/scenes.ts';
import { seededRandom } from '../../src/testing/seededRandom.ts';
import { runFfmpeg } from './runFfmpeg.ts';

const SIZE = { width: 640, height: 360, rate: '25' };

/**
 * A programme of many scenes whose kinds, lengths and grain follow from a seed, drawn once.
 *
 * @returns Its path.
 */
export function drawLongProgramme(folder: string, seed: number, seconds: number): string {
  const file = path.join(folder, `seeded-${seed}-${seconds}.mov`);
  if (existsSync(file)) return file;
  const random = seededRandom(seed * 7919);
  const parts = path.join(folder, `.seeded-${seed}`);
  mkdirSync(parts, { recursive: true });
  const names: string[] = [];
  for (let drawn = 0; drawn < seconds;) {
    const length = Math.min(seconds - drawn, 3 + Math.floor(random() * 14));
    const name = path.join(parts, `${names.length}.mov`);
    const scene: Scene = { ...SIZE, seconds: length };
    runFfmpeg([
      '-filter_complex',
      `${pick(scene, random)}[out]`,
      '-map',
      '[out]',
      '-t',
      String(length),
      ...ENCODING,
      name,
    ]);
    names.push(name);
    drawn += length;
  }
  const list = path.join(parts, 'list.txt');
  writeFileSync(list, names.map((name) => `file '${name}'\n`).join(''));
  runFfmpeg(['-f', 'concat', '-safe', '0', '-i', list, '-c', 'copy', file]);
  rmSync(parts, { recursive: true, force: true });
  return file;
}

const ENCODING = [
  ...['-r', '25', '-c:v', 'libx264', '-preset', 'ultrafast', '-crf', '12', '-g', '25', '-pix_fmt', 'yuv420p'],
  ...['-color_range', 'tv', '-color_primaries', 'bt709', '-color_trc', 'bt709', '-colorspace', 'bt709'],
];

function pick(scene: Scene, random: () => number): string {
  const grain = `noise=c0s=${1 + Math.floor(random() * 9)}:c0f=t`;
  switch (Math.floor(random() * 6)) {
    case 0:
      return scenes.grainySky(scene, 3 + Math.floor(random() * 14));
    case 1:
      return `${scenes.duskGradient(scene)},${grain}`;
    case 2:
      return scenes.water(scene);
    case 3:
      return `${scenes.fastPan(scene)},${grain}`;
    case 4:
      return scenes.presenter(scene);
    default:
      return `testsrc2=s=${scene.width}x${scene.height}:r=${scene.rate}:d=${scene.seconds},${grain},format=yuv420p`;
  }
}
