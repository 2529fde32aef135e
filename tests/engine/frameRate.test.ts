import { execFileSync } from 'node:child_process';
import path from 'node:path';
import { beforeAll, describe, expect, it } from 'vitest';
import type { FieldOrder } from '../../src/core/geometry/preparation.ts';
import { framesOf } from '../../src/core/plan/planPicture.ts';
import { pictureOf } from '../../src/core/plan/encodePlan.ts';
import { createEngine } from '../../src/engine/createEngine.ts';
import { lookAtFile } from '../support/analyse.ts';
import { preparedRequest } from '../../src/server/stills/stillRequests.ts';
import { makeRendition } from '../support/encode.ts';
import { draw, makeFolder } from '../support/footage.ts';

const engine = createEngine({ ffmpeg: 'ffmpeg', ffprobe: 'ffprobe' });
const folder = makeFolder();
const inFolder = (name: string) => path.join(folder, name);

/** Every frame is one grey, four steps brighter than the one before. */
const greys = (rate: string, frames: number, more = '') =>
  `color=black:s=160x90:r=${rate},format=gray,geq=lum=20+4*N,trim=end_frame=${frames}${more},format=yuv420p`;
const tags = ['-colorspace', 'bt709', '-color_primaries', 'bt709', '-color_trc', 'bt709', '-color_range', 'tv'];
const lossless = ['-c:v', 'libx264', '-qp', '0', '-preset', 'ultrafast', ...tags];
const tone = ['-f', 'lavfi', '-i', 'sine=f=440:r=48000:d=4'];

beforeAll(() => {
  const picture = (source: string) => ['-f', 'lavfi', '-i', source];
  draw(inFolder('50.mov'), [...picture(greys('50', 50)), ...tone, '-t', '1', ...lossless, '-c:a', 'pcm_s16le']);
  draw(inFolder('5994.mkv'), [...picture(greys('60000/1001', 50)), ...lossless]);
  draw(inFolder('25.ts'), [...picture(greys('25', 50)), ...tone, '-g', '10', ...lossless, '-c:a', 'mp2', '-t', '2']);
  for (const scan of ['tff', 'bff']) {
    const fields = `${greys('50', 50)},interlace=scan=${scan}:lowpass=0`;
    draw(inFolder(`${scan}.mov`), [...picture(fields), ...lossless]);
  }
  // One frame of three is missing, and the rest keep their times.
  const gaps = greys('30', 50, ",select='mod(n,3)'");
  draw(inFolder('gaps.mp4'), [...picture(gaps), '-fps_mode', 'vfr', ...lossless]);
});

/** The number of the frame of the master that each frame of a file shows, by its grey. */
function numbersOf(file: string): number[] {
  const raw = execFileSync(
    'ffmpeg',
    [
      '-v',
      'error',
      '-i',
      file,
      '-map',
      '0:v',
      '-vf',
      'scale=1:1',
      '-fps_mode',
      'passthrough',
      '-f',
      'rawvideo',
      '-pix_fmt',
      'gray',
      '-',
    ],
    { maxBuffer: 1e7 },
  );
  return [...raw].map((grey) => Math.round((grey - 20) / 4));
}

const order = (frameRate: unknown, more: object = {}) => ({
  video: { codec: 'h264', rate: { mode: 'quality', value: 12 }, effort: 'fast' },
  time: { frameRate },
  audio: null,
  ...more,
});

async function framesFrom(name: string, recipe: object, portion: { inFrame: number; outFrame: number } | null = null) {
  const made = await makeRendition(engine, folder, inFolder(name), recipe, portion);
  expect(made.checks.filter(({ ok }) => !ok)).toEqual([]);
  const picture = pictureOf(made.plan)!;
  const { clock } = await lookAtFile(inFolder(name));
  const { toSource } = framesOf(picture, clock);
  return { numbers: numbersOf(made.file), told: Array.from({ length: picture.out.frameCount }, (_, n) => toSource(n)) };
}

describe('a result at another frame rate', () => {
  it('shows every second frame at half the rate', async () => {
    const { numbers, told } = await framesFrom('50.mov', order('half', { audio: { codec: 'aac' } }));
    expect(numbers).toEqual(Array.from({ length: 25 }, (_, n) => 2 * n));
    expect(told).toEqual(numbers);
  });

  it.each<readonly [string, string, unknown, { inFrame: number; outFrame: number } | null]>([
    ['under a ceiling, of 59.94', '5994.mkv', { atMost: { num: 30, den: 1 } }, null],
    ['with frames shown again', '50.mov', { num: 60, den: 1 }, null],
    ['with frames left out unevenly', '50.mov', { num: 24, den: 1 }, null],
    ['of a portion', '50.mov', { num: 30, den: 1 }, { inFrame: 13, outFrame: 41 }],
    ['of a portion of a file without an index', '25.ts', { num: 20, den: 1 }, { inFrame: 17, outFrame: 40 }],
    ['steady, of one that varies', 'gaps.mp4', { num: 30, den: 1 }, null],
    ['steady, of a portion of one that varies', 'gaps.mp4', { num: 25, den: 1 }, { inFrame: 7, outFrame: 28 }],
  ])('%s, shows what is on the screen', async (_name, file, frameRate, portion) => {
    const { numbers, told } = await framesFrom(file, order(frameRate), portion);
    const master = numbersOf(inFolder(file));
    expect(numbers).toEqual(told.map((frame) => master[frame]));
  });

  it.each(['hevc', 'vp9', 'av1'])('in %s too', async (codec) => {
    const video = { codec, rate: { mode: 'quality', value: 20 }, effort: 'fast' };
    const container = codec === 'vp9' ? 'webm' : 'mp4';
    const { numbers } = await framesFrom('50.mov', order('half', { video, container }), { inFrame: 5, outFrame: 44 });
    expect(numbers).toEqual(Array.from({ length: 20 }, (_, n) => 5 + 2 * n));
  });

  it('fills a size group by group, at half the rate', async () => {
    const video = { codec: 'h264', rate: { mode: 'size', bytes: 6000 }, effort: 'fast', keyframes: { frames: 6 } };
    const { numbers } = await framesFrom('50.mov', order('half', { video }));
    expect(numbers).toEqual(Array.from({ length: 25 }, (_, n) => 2 * n));
  });
});

describe('each field as a frame of its own', () => {
  const apart = (deinterlace: FieldOrder) => order('fields', { picture: { deinterlace } });

  it.each([
    ['tff', 'top-first'],
    ['bff', 'bottom-first'],
  ] as const)('%s: all that was seen, in its order', async (scan, fields) => {
    const { numbers, told } = await framesFrom(`${scan}.mov`, apart(fields));
    expect(numbers).toEqual(Array.from({ length: 50 }, (_, n) => n));
    expect(told).toEqual(numbers.map((n) => n >> 1));
  });

  it('of a portion', async () => {
    const { numbers } = await framesFrom('tff.mov', apart('top-first'), { inFrame: 10, outFrame: 18 });
    expect(numbers).toEqual(Array.from({ length: 18 }, (_, n) => 20 + n));
  });

  it('where groups of them are encoded by themselves', async () => {
    const size = { codec: 'h264', rate: { mode: 'size', bytes: 6_000 }, effort: 'fast', keyframes: { frames: 5 } };
    const { numbers } = await framesFrom('tff.mov', { ...apart('top-first'), video: size });
    expect(numbers).toEqual(Array.from({ length: 50 }, (_, n) => n));
  });

  it('is seen as a still of its master', async () => {
    const made = await makeRendition(engine, folder, inFolder('tff.mov'), apart('top-first'));
    const picture = pictureOf(made.plan)!;
    const { facts, clock } = await lookAtFile(inFolder('tff.mov'));
    const size = { width: 16, height: 16 };
    const wanted = [0, 1, 20, 21, 48, 49];
    const stills = await engine.rawFrames(
      wanted.map((frame) => preparedRequest(inFolder('tff.mov'), facts, clock, picture, frame, size)),
      new AbortController().signal,
    );
    expect(stills.map(([grey = 0]) => Math.round((grey - 20) / 4))).toEqual(wanted);
  });
});
