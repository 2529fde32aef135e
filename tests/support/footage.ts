import { execFileSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import {
  closeSync,
  copyFileSync,
  existsSync,
  mkdirSync,
  mkdtempSync,
  openSync,
  readFileSync,
  renameSync,
  rmSync,
  statSync,
  writeFileSync,
  writeSync,
} from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';

/** A fresh folder for a test file. */
export function makeFolder(): string {
  return mkdtempSync(path.join(tmpdir(), 'linstock-test-'));
}

/** Footage that was drawn before, by what it was drawn with. */
const DRAWN = path.join(tmpdir(), 'linstock-footage');

/** Runs the engine by hand to make a file, or copies what the same arguments made before. */
export function draw(file: string, args: readonly string[]): string {
  const kept = isOfFiles(args) ? null : path.join(DRAWN, digestOf([...args, path.extname(file)]) + path.extname(file));
  if (kept && existsSync(kept)) {
    copyFileSync(kept, file);
    return file;
  }
  execFileSync('ffmpeg', ['-v', 'error', '-nostdin', '-y', ...args, file]);
  if (kept) {
    mkdirSync(DRAWN, { recursive: true });
    // Others may look for it meanwhile: it gets its name once it is whole.
    copyFileSync(file, `${kept}.${process.pid}`);
    renameSync(`${kept}.${process.pid}`, kept);
  }
  return file;
}

/** The same without its first half second, as a broadcast that was switched on to: it begins within a group of pictures. */
export function cutOpening(file: string, args: readonly string[]): void {
  const whole = `${file}.whole.ts`;
  draw(whole, args);
  const packets = readFileSync(whole);
  rmSync(whole);
  writeFileSync(file, packets.subarray(Math.floor(packets.length / 10 / TS_PACKET) * TS_PACKET));
}

/** Bytes of a packet of a transport stream (ISO/IEC 13818-1). */
const TS_PACKET = 188;

/** What is made of other files depends on them, and not on its arguments alone. */
function isOfFiles(args: readonly string[]): boolean {
  return args.some((arg) => arg.startsWith('/') || arg.startsWith('file:'));
}

function digestOf(args: readonly string[]): string {
  return createHash('sha1').update(JSON.stringify(args)).digest('hex');
}

/** Overwrites so many bytes in the middle of a file, as a bad copy does. */
export function spoilMiddle(file: string, length: number): void {
  const handle = openSync(file, 'r+');
  writeSync(handle, Buffer.alloc(length, 0x5a), 0, length, Math.floor(statSync(file).size / 2));
  closeSync(handle);
}

const BITS = 10;
const BLOCK = 32;

/** Size of pictures that carry their own number. */
export const NUMBERED_SIZE = { width: BITS * BLOCK, height: 64 };

/** Source of pictures whose blocks spell the frame's number in binary, white for one. */
export function numberedSource(rate: string, frames: number): string {
  const luma = `if(mod(floor(N/pow(2,floor(X/${BLOCK}))),2),235,16)`;
  return `color=black:s=${NUMBERED_SIZE.width}x${NUMBERED_SIZE.height}:r=${rate},format=yuv420p,geq=lum='${luma}':cb=128:cr=128,trim=end_frame=${frames}`;
}

/** Reads the number back out of bare RGB bytes of a numbered picture. */
export function readNumber(rgb: Uint8Array): number {
  const middle = (NUMBERED_SIZE.height / 2) * NUMBERED_SIZE.width;
  let number = 0;
  for (let bit = 0; bit < BITS; bit += 1) {
    const pixel = middle + bit * BLOCK + BLOCK / 2;
    if ((rgb[pixel * 3] ?? 0) > 128) number += 2 ** bit;
  }
  return number;
}

/** A busy little picture with a tone, as masters in tests are. */
export function drawMaster(
  file: string,
  options: { seconds: number; rate?: string; size?: string; grain?: number; extra?: readonly string[] },
): string {
  const { seconds, rate = '25', size = '320x180', grain = 10 } = options;
  return draw(file, [
    ...['-f', 'lavfi', '-i', `testsrc2=s=${size}:r=${rate}:d=${seconds},noise=c0s=${grain}:c0f=t,format=yuv420p`],
    ...['-f', 'lavfi', '-i', `sine=frequency=440:sample_rate=48000:duration=${seconds}`],
    ...['-c:v', 'libx264', '-preset', 'ultrafast', '-crf', '8', '-c:a', 'pcm_s16le', '-shortest'],
    ...['-colorspace', 'bt709', '-color_primaries', 'bt709', '-color_trc', 'bt709', '-color_range', 'tv'],
    ...(options.extra ?? []),
  ]);
}
