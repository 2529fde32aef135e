import { execFileSync } from 'node:child_process';
import path from 'node:path';
import { beforeAll, describe, expect, it } from 'vitest';
import { createEngine } from '../../src/engine/createEngine.ts';
import { makeRendition } from '../support/encode.ts';
import { draw, makeFolder } from '../support/footage.ts';

const engine = createEngine({ ffmpeg: 'ffmpeg', ffprobe: 'ffprobe' });
const folder = makeFolder();
const inFolder = (name: string) => path.join(folder, name);

beforeAll(() => {
  const grey = 'color=c=#505050:r=25:d=0.4';
  const tagged = ['-colorspace', 'bt709', '-color_primaries', 'bt709', '-color_trc', 'bt709'];
  draw(inFolder('wide.mkv'), ['-f', 'lavfi', '-i', `${grey}:s=320x180,format=yuv420p`, '-c:v', 'ffv1', ...tagged]);
  const narrow = `${grey}:s=240x180,format=yuv420p,setsar=4/3`;
  draw(inFolder('narrow.mkv'), ['-f', 'lavfi', '-i', narrow, '-c:v', 'ffv1', ...tagged]);
  // A disc of one colour, and nothing around it.
  const disc = "color=c=black:s=100x50,format=rgba,geq=r=0:g=200:b=80:a='255*lt(hypot(X-50,2*(Y-25)),50)'";
  draw(inFolder('disc.png'), ['-f', 'lavfi', '-i', disc, '-frames:v', '1']);
});

const LOSSLESS = { codec: 'ffv1', bitDepth: 10, chroma: '4:2:0' };

async function make(name: string, mark: object, changes: { readonly video?: object; readonly picture?: object } = {}) {
  const { video = LOSSLESS, picture = {} } = changes;
  const made = await makeRendition(engine, folder, inFolder(name), {
    ...{ container: 'matroska', video, audio: null },
    picture: { ...picture, mark },
  });
  expect(made.checks.filter(({ ok }) => !ok)).toEqual([]);
  return made.file;
}

interface Found {
  readonly width: number;
  readonly height: number;
  /** Of the last frame, three planes of as many pixels, in 10 bits. */
  readonly planes: readonly Uint16Array[];
}

function read(file: string, width: number, height: number): Found {
  const args = [
    '-v',
    'error',
    '-i',
    file,
    '-vf',
    'scale=flags=neighbor',
    '-pix_fmt',
    'yuv444p10le',
    '-f',
    'rawvideo',
    '-',
  ];
  const raw = execFileSync('ffmpeg', args, { maxBuffer: 100_000_000 });
  const all = new Uint16Array(raw.buffer.slice(raw.byteOffset, raw.byteOffset + raw.byteLength));
  const size = width * height;
  const last = all.subarray(all.length - 3 * size);
  return { width, height, planes: [0, 1, 2].map((plane) => last.subarray(plane * size, (plane + 1) * size)) };
}

/** Where luma is not that of the grey. */
function extentOf({ width, planes: [luma] }: Found) {
  const grey = luma![0]!;
  const places = Array.from(luma!.keys()).filter((place) => Math.abs(luma![place]! - grey) > 12);
  const columns = places.map((place) => place % width);
  const rows = places.map((place) => Math.floor(place / width));
  return { left: Math.min(...columns), right: Math.max(...columns), top: Math.min(...rows), bottom: Math.max(...rows) };
}

describe('a mark in every frame', () => {
  it.each([
    ['top-left', 16, 9],
    ['top', 140, 9],
    ['top-right', 264, 9],
    ['left', 16, 80],
    ['middle', 140, 80],
    ['bottom-right', 264, 151],
  ])('of a picture stands %s, as tall as it is asked to be', async (place, left, top) => {
    const file = inFolder('disc.png');
    const found = extentOf(read(await make('wide.mkv', { file, place, size: 20 / 180, opacity: 1 }), 320, 180));
    // Twice as wide as it is tall; nothing wrong of two pixels at its edge.
    expect(Math.abs(found.left - left)).toBeLessThanOrEqual(2);
    expect(Math.abs(found.top - top)).toBeLessThanOrEqual(2);
    expect(Math.abs(found.right - found.left - 39)).toBeLessThanOrEqual(3);
    expect(Math.abs(found.bottom - found.top - 19)).toBeLessThanOrEqual(2);
  });

  it.each([1, 0.5])('has its very colour, %d of it', async (opacity) => {
    const file = inFolder('disc.png');
    const { planes, width } = read(await make('wide.mkv', { file, place: 'middle', size: 0.3, opacity }), 320, 180);
    // ITU-R BT.709: of (0, 200, 80), against the grey of 80.
    const [red, green, blue] = [0, 200 / 255, 80 / 255];
    const luma = 0.2126 * red + 0.7152 * green + 0.0722 * blue;
    const own = [64 + 876 * luma, 512 + (896 * (blue - luma)) / 1.8556, 512 + (896 * (red - luma)) / 1.5748];
    const grey = [64 + (876 * 80) / 255, 512, 512];
    const at = 90 * width + 160;
    own.forEach((value, plane) => {
      const wanted = grey[plane]! + opacity * (value - grey[plane]!);
      expect(Math.abs(planes[plane]![at]! - wanted), `plane ${plane}`).toBeLessThanOrEqual(6);
    });
  });

  it('is round in pixels that are not square, and no larger than the picture', async () => {
    const file = inFolder('disc.png');
    const mark = { file, place: 'middle', size: 0.2, opacity: 1 };
    const kept = extentOf(read(await make('narrow.mkv', mark, { picture: { pixelAspect: 'source' } }), 240, 180));
    // 36 rows, 72 columns as they are shown, 54 as they are stored.
    expect(Math.abs(kept.right - kept.left - 53)).toBeLessThanOrEqual(3);
    expect(Math.abs(kept.bottom - kept.top - 35)).toBeLessThanOrEqual(2);
    const large = extentOf(read(await make('wide.mkv', { ...mark, size: 1 }), 320, 180));
    expect(large.left).toBeGreaterThanOrEqual(15);
    expect(large.right).toBeLessThanOrEqual(304);
  });

  it('of words stands in its place, as faint as it is asked to be', async () => {
    const brightest = async (opacity: number) => {
      const found = read(
        await make('wide.mkv', { text: 'Preview {2}', place: 'top-right', size: 0.1, opacity }),
        320,
        180,
      );
      const { left, right, top, bottom } = extentOf(found);
      expect(left).toBeGreaterThan(160);
      expect(Math.abs(right - 303)).toBeLessThanOrEqual(3);
      expect(top).toBeGreaterThanOrEqual(8);
      expect(bottom).toBeLessThan(30);
      return Math.max(...found.planes[0]!);
    };
    expect(await brightest(1)).toBeGreaterThan(930);
    // Half of the way from the grey of 339 to the white of 940.
    expect(Math.abs((await brightest(0.5)) - 639)).toBeLessThanOrEqual(12);
  });

  it.each([
    ['h264', { codec: 'h264', effort: 'fast', rate: { mode: 'quality', value: 20 } }],
    [
      '4:4:4 in 10 bits',
      { codec: 'hevc', effort: 'fast', bitDepth: 10, chroma: '4:4:4', rate: { mode: 'quality', value: 20 } },
    ],
    ['4:2:2', { codec: 'prores', flavour: 'standard' }],
  ])('goes into %s, and passes the check of its colours', async (_, video) => {
    const file = inFolder('disc.png');
    const found = read(await make('wide.mkv', { file, place: 'middle', size: 0.6, opacity: 1 }, { video }), 320, 180);
    expect(extentOf(found).bottom).toBeGreaterThan(130);
  });

  it('is kept out of what it cannot be drawn into', async () => {
    const video = { codec: 'vp9', alpha: true, rate: { mode: 'quality', value: 30 } };
    const asked = { container: 'webm', video, audio: null, picture: { mark: { text: 'x' } } };
    await expect(makeRendition(engine, folder, inFolder('wide.mkv'), asked)).rejects.toThrow('opaque pictures only');
    await expect(make('wide.mkv', { file: '' })).rejects.toThrow('Choose the picture');
    await expect(make('wide.mkv', { file: '/somewhere/else.png' })).rejects.toThrow('media folders');
    await expect(make('wide.mkv', { file: 'a', text: 'b' })).rejects.toThrow('either a text or a file');
  });
});
