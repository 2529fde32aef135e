import { execFileSync } from 'node:child_process';
import { writeFileSync } from 'node:fs';
import path from 'node:path';
import { beforeAll, describe, expect, it } from 'vitest';
import { pictureOf } from '../../src/core/plan/encodePlan.ts';
import { quantisedLight } from '../../src/core/picture/brightness.ts';
import { createEngine } from '../../src/engine/createEngine.ts';
import { makeRendition } from '../support/encode.ts';
import { draw, makeFolder } from '../support/footage.ts';

const engine = createEngine({ ffmpeg: 'ffmpeg', ffprobe: 'ffprobe' });
const folder = makeFolder();
const inFolder = (name: string) => path.join(folder, name);

/** Shown from frame 25 to 49, and above from 75 to 87, of 100. */
const CUES = '1\n00:00:01,000 --> 00:00:02,000\nНебо над холмом\n\n2\n00:00:03,000 --> 00:00:03,500\n<i>End</i>\n';
const GREY = 'color=c=#505050:r=25:d=4';

function captioned(name: string, picture: readonly string[], coding: readonly string[]): void {
  const text = inFolder('cues.srt');
  writeFileSync(text, CUES);
  const drawn = draw(inFolder(`plain-${name}`), [...['-f', 'lavfi', '-i'], ...picture, ...coding]);
  draw(inFolder(name), ['-i', drawn, '-i', text, '-map', '0', '-map', '1', '-c', 'copy', '-c:s', 'subrip']);
}

beforeAll(() => {
  const h264 = ['-c:v', 'libx264', '-preset', 'ultrafast', '-crf', '4', '-g', '25', '-pix_fmt', 'yuv420p'];
  captioned('wide.mkv', [`${GREY}:s=320x180`], h264);
  captioned('moving.mkv', ['testsrc2=s=320x180:r=25:d=4', '-vf', 'lutyuv=y=16+(val-16)/2'], h264);
  captioned('narrow.mkv', [`${GREY}:s=240x180`, '-vf', 'setsar=4/3'], h264);
  captioned('rgb.mkv', [`${GREY}:s=320x180,format=gbrp`], ['-c:v', 'ffv1']);
  captioned('varying.mkv', [`${GREY}:s=320x180`, '-vf', "select='gte(n,50)+not(mod(n,2))'", '-fps_mode', 'vfr'], h264);
  const pq = ['-color_primaries', 'bt2020', '-color_trc', 'smpte2084', '-colorspace', 'bt2020nc'];
  captioned('pq.mkv', [`${GREY}:s=320x180,format=yuv420p10le`], ['-c:v', 'ffv1', ...pq]);
});

const BURN = { captions: 'burn' };
const LOSSLESS = { codec: 'ffv1', bitDepth: 10, chroma: '4:2:0' };

async function make(name: string, changes: object = {}, portion: { inFrame: number; outFrame: number } | null = null) {
  const recipe = { container: 'matroska', video: LOSSLESS, audio: null, file: BURN, ...changes };
  const made = await makeRendition(engine, folder, inFolder(name), recipe, portion);
  expect(made.checks.filter(({ ok }) => !ok)).toEqual([]);
  return made;
}

/** Frames of luma in 10 bits, a row of pixels after another. */
function lumaOf(file: string, width: number, height: number): Uint16Array[] {
  const args = [
    '-v',
    'error',
    '-i',
    file,
    '-fps_mode',
    'passthrough',
    '-vf',
    'extractplanes=y',
    '-pix_fmt',
    'gray10le',
  ];
  const raw = execFileSync('ffmpeg', [...args, '-f', 'rawvideo', '-'], { maxBuffer: 100_000_000 });
  const all = new Uint16Array(raw.buffer.slice(raw.byteOffset, raw.byteOffset + raw.byteLength));
  const size = width * height;
  return Array.from({ length: all.length / size }, (_, index) => all.subarray(index * size, (index + 1) * size));
}

/** Numbers of the frames in which white letters stand. */
function shownIn(frames: readonly Uint16Array[]): number[] {
  return frames.flatMap((frame, number) => (Math.max(...frame) > 600 ? [number] : []));
}

const between = (first: number, last: number) => Array.from({ length: last - first + 1 }, (_, index) => first + index);

/** Pixels from the first to the last column, and row, in which there are letters. */
function extentOf(
  frame: Uint16Array,
  width: number,
): { readonly left: number; readonly right: number; readonly top: number; readonly bottom: number } {
  const places = Array.from(frame.keys()).filter((place) => frame[place]! > 600);
  const columns = places.map((place) => place % width);
  const rows = places.map((place) => Math.floor(place / width));
  return { left: Math.min(...columns), right: Math.max(...columns), top: Math.min(...rows), bottom: Math.max(...rows) };
}

describe('captions that are drawn in', () => {
  it('stand in the very frames they are told for, below in the middle, inside of what is safe', async () => {
    const made = await make('wide.mkv');
    const frames = lumaOf(made.file, 320, 180);
    expect(shownIn(frames)).toEqual([...between(25, 49), ...between(75, 87)]);
    const { left, right, top, bottom } = extentOf(frames[30]!, 320);
    expect(Math.abs(left - (319 - right))).toBeLessThanOrEqual(3);
    expect(left).toBeGreaterThanOrEqual(16);
    expect(top).toBeGreaterThan(150);
    expect(bottom).toBeLessThanOrEqual(171);
    // White letters, nothing else is changed.
    expect(Math.abs(Math.max(...frames[30]!) - 940)).toBeLessThanOrEqual(1);
    expect(new Set(frames[0]).size).toBe(1);
    // They are no loss: the master is compared with the same.
    expect(Math.min(...made.compared!.map(({ ssimLuma }) => ssimLuma))).toBeGreaterThan(0.999);
  });

  it('go by the portion, and by another rate', async () => {
    const part = await make('wide.mkv', {}, { inFrame: 30, outFrame: 79 });
    expect(shownIn(lumaOf(part.file, 320, 180))).toEqual([...between(0, 19), ...between(45, 49)]);
    const half = await make('wide.mkv', { time: { frameRate: 'half' } });
    expect(shownIn(lumaOf(half.file, 320, 180))).toEqual([...between(13, 24), ...between(38, 43)]);
  });

  it('go by the times of frames that have their own', async () => {
    const made = await make('varying.mkv');
    expect(pictureOf(made.plan)?.out.constantRate).toBe(false);
    // Every other of the first fifty, and then each.
    expect(shownIn(lumaOf(made.file, 320, 180))).toEqual([...between(13, 24), ...between(50, 62)]);
    const part = await make('varying.mkv', {}, { inFrame: 15, outFrame: 60 });
    expect(shownIn(lumaOf(part.file, 320, 180))).toEqual([...between(0, 9), ...between(35, 45)]);
  });

  it('stay where groups are encoded again for a size', async () => {
    const video = {
      codec: 'h264',
      effort: 'fast',
      rate: { mode: 'size', bytes: 120_000 },
      keyframes: { seconds: 0.6 },
    };
    const made = await make('moving.mkv', { video });
    expect(made.fill?.retouches.some(({ isUsed }) => isUsed)).toBe(true);
    const frames = lumaOf(made.file, 320, 180);
    expect(shownIn(frames)).toEqual([...between(25, 49), ...between(75, 87)]);
  });

  it('are as wide in pixels that are not square, and in their own', async () => {
    const shareOf = (frame: Uint16Array, width: number) => {
      const { left, right } = extentOf(frame, width);
      return (right - left) / width;
    };
    const wide = shareOf(lumaOf((await make('wide.mkv')).file, 320, 180)[30]!, 320);
    const narrow = await make('narrow.mkv');
    expect(pictureOf(narrow.plan)?.out.size).toEqual({ width: 320, height: 180 });
    expect(shareOf(lumaOf(narrow.file, 320, 180)[30]!, 320)).toBeCloseTo(wide, 1);
    const kept = await make('narrow.mkv', { picture: { pixelAspect: 'source' } });
    expect(Math.abs(shareOf(lumaOf(kept.file, 240, 180)[30]!, 240) - wide)).toBeLessThan(0.015);
    expect(Math.min(...narrow.compared!.map(({ ssimLuma }) => ssimLuma))).toBeGreaterThan(0.97);
  });

  it('stand in the picture and not beside it, turned as people see it', async () => {
    const padded = await make('wide.mkv', { picture: { pad: { width: 180, height: 320, with: '#000000' } } });
    const { top, bottom } = extentOf(lumaOf(padded.file, 180, 320)[30]!, 180);
    expect(top).toBeGreaterThan(160);
    expect(bottom).toBeLessThan(211);
    const turned = await make('wide.mkv', { picture: { rotate: 90 } });
    const stood = extentOf(lumaOf(turned.file, 180, 320)[30]!, 180);
    expect(stood.top).toBeGreaterThan(270);
    expect(stood.bottom).toBeLessThanOrEqual(304);
  });

  it('are no brighter than white paper in high dynamic range', async () => {
    const frames = lumaOf((await make('pq.mkv')).file, 320, 180);
    // ITU-R BT.2408: 203 cd/m², 58 % of PQ's signal.
    expect(Math.abs(Math.max(...frames[30]!) - (64 + 876 * quantisedLight(203)))).toBeLessThanOrEqual(4);
    expect(shownIn(frames).length).toBe(0);
  });

  it('are drawn into RGB as well', async () => {
    const made = await make('rgb.mkv');
    expect(shownIn(lumaOf(made.file, 320, 180))).toEqual([...between(25, 49), ...between(75, 87)]);
    expect(Math.min(...made.compared!.map(({ ssimLuma }) => ssimLuma))).toBeGreaterThan(0.999);
  });
});
