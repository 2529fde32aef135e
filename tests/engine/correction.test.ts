import { execFileSync } from 'node:child_process';
import path from 'node:path';
import { beforeAll, describe, expect, it } from 'vitest';
import { recipeSchema } from '../../src/contract/recipe.ts';
import { parseWith } from '../../src/contract/strictObject.ts';
import { adjustLuma, UNADJUSTED, type Adjustment } from '../../src/core/picture/adjust.ts';
import { pictureOf, type PicturePath } from '../../src/core/plan/encodePlan.ts';
import { takeFrames } from '../../src/core/plan/planPicture.ts';
import { planRendition } from '../../src/core/plan/planRendition.ts';
import type { Recipe } from '../../src/core/recipe/recipe.ts';
import { inputPortion } from '../../src/engine/arguments/input.ts';
import { createEngine } from '../../src/engine/createEngine.ts';
import { encodeGraph } from '../../src/engine/filters/picture.ts';
import { lookAtFile } from '../support/analyse.ts';
import { makeRendition } from '../support/encode.ts';
import { draw, makeFolder } from '../support/footage.ts';

const engine = createEngine({ ffmpeg: 'ffmpeg', ffprobe: 'ffprobe' });
const folder = makeFolder();
const inFolder = (name: string) => path.join(folder, name);
const HD = ['-colorspace', 'bt709', '-color_primaries', 'bt709', '-color_trc', 'bt709'];

/** Luma rises across the picture, and so does one difference of colour, downwards. */
const RAMP = "nullsrc=s=160x90:r=25:d=0.4,format=yuv420p,geq=lum='16+X*219/159':cb='128+(Y-22)*2':cr='128-(Y-22)'";

beforeAll(() => {
  const drawn = ['-f', 'lavfi', '-i', RAMP];
  const lossless = ['-c:v', 'ffv1', ...HD];
  draw(inFolder('limited.mkv'), [...drawn, ...lossless, '-color_range', 'tv']);
  const full = 'scale=in_range=tv:out_range=pc,format=yuv420p';
  draw(inFolder('full.mkv'), [...drawn, '-vf', full, ...lossless, '-color_range', 'pc']);
  const rgb = 'scale=in_color_matrix=bt709:in_range=tv:flags=accurate_rnd+full_chroma_int,format=gbrp';
  draw(inFolder('rgb.mkv'), [...drawn, '-vf', rgb, '-c:v', 'ffv1']);
  const tens = 'scale=in_range=tv:out_range=tv,format=yuv422p10le';
  draw(inFolder('tens.mkv'), [...drawn, '-vf', tens, ...lossless, '-color_range', 'tv']);
  const noisy = 'gradients=s=320x180:r=25:d=2:c0=#405060:c1=#c0b0a0:seed=7:speed=0.003,format=yuv420p';
  const noise = 'noise=alls=12:allf=t:all_seed=5';
  draw(inFolder('noisy.mkv'), ['-f', 'lavfi', '-i', `${noisy},${noise}`, ...lossless, '-color_range', 'tv']);
});

const LOSSLESS = { codec: 'ffv1', bitDepth: 10, chroma: '4:2:0' };

async function make(name: string, picture: object, video: object = LOSSLESS) {
  const recipe = { container: 'matroska', video, picture, audio: null };
  const made = await makeRendition(engine, folder, inFolder(name), recipe);
  expect(made.checks.filter(({ ok }) => !ok)).toEqual([]);
  return made;
}

/** The first frame's luma and one of its differences of colour, in 10 bits. */
function planesOf(file: string): { readonly y: Uint16Array; readonly cb: Uint16Array } {
  const args = ['-v', 'error', '-i', file, '-frames:v', '1', '-pix_fmt', 'yuv420p10le', '-f', 'rawvideo', '-'];
  const raw = execFileSync('ffmpeg', args, { maxBuffer: 10_000_000 });
  const all = new Uint16Array(raw.buffer.slice(raw.byteOffset, raw.byteOffset + raw.byteLength));
  return { y: all.subarray(0, 160 * 90), cb: all.subarray(160 * 90, 160 * 90 + 80 * 45) };
}

describe('light and colour', () => {
  const wishes: readonly Partial<Adjustment>[] = [
    { brightness: 0.1 },
    { brightness: -0.25 },
    { contrast: 1.3 },
    { gamma: 1.4 },
    { gamma: 0.6, contrast: 0.8, brightness: 0.05 },
  ];

  it.each(wishes)('are bent as the formula says, by %j', async (wish) => {
    const { y } = planesOf((await make('limited.mkv', { adjust: wish })).file);
    for (let x = 2; x < 158; x += 5) {
      const stored = Math.floor(16 + (x * 219) / 159);
      const wanted = adjustLuma((stored - 16) / 219, { ...UNADJUSTED, ...wish });
      expect(Math.abs(y[45 * 160 + x]! - (64 + 876 * wanted)), `at ${x}`).toBeLessThanOrEqual(2);
    }
  });

  it.each(['limited', 'full', 'rgb', 'tens'])('are the same whatever a master is stored as: %s', async (kind) => {
    const { y } = planesOf((await make(`${kind}.mkv`, { adjust: { gamma: 1.4, contrast: 0.9 } })).file);
    for (let x = 12; x < 150; x += 9) {
      const wanted = adjustLuma(x / 159, { ...UNADJUSTED, gamma: 1.4, contrast: 0.9 });
      expect(Math.abs(y[22 * 160 + x]! - (64 + 876 * wanted)), `at ${x}`).toBeLessThanOrEqual(12);
    }
  });

  it('keep luma where colours alone are made stronger or weaker', async () => {
    const [own, grey, half] = await Promise.all(
      [{ gamma: 1 }, { saturation: 0 }, { saturation: 0.5 }].map(async (adjust) =>
        planesOf((await make('limited.mkv', { adjust })).file),
      ),
    );
    expect(Math.max(...grey!.cb) - 512).toBe(0);
    expect([...grey!.y]).toEqual([...own!.y]);
    for (let at = 0; at < own!.cb.length; at += 77) {
      expect(Math.abs(half!.cb[at]! - 512 - (own!.cb[at]! - 512) / 2)).toBeLessThanOrEqual(1);
    }
  });

  it('are a choice and no loss: the result is compared with a master that is adjusted alike', async () => {
    for (const kind of ['limited', 'full', 'rgb']) {
      const { compared } = await make(`${kind}.mkv`, { adjust: { gamma: 1.5, saturation: 1.2 }, fit: { height: 90 } });
      expect(Math.min(...compared!.map(({ ssimAll }) => ssimAll)), kind).toBeGreaterThan(0.99);
    }
  });
});

describe('noise', () => {
  const QUALITY = { codec: 'h264', effort: 'fast', rate: { mode: 'quality', value: 20 } };

  it('is taken out the more the more is asked, and takes fewer bytes', async () => {
    const bytes: number[] = [];
    for (const denoise of [0, 0.25, 0.6, 1]) {
      const { tallies } = await engine.inspect((await make('noisy.mkv', { denoise }, QUALITY)).file);
      bytes.push([...tallies.values()].reduce((sum, tally) => sum + tally.bytes, 0));
    }
    expect([...bytes].sort((a, b) => b - a)).toEqual(bytes);
    expect(bytes[3]).toBeLessThan(bytes[0]! / 2);
  });

  it('is missed in the comparison, which goes by the master as it is', async () => {
    const lowest = async (denoise: number) =>
      Math.min(...(await make('noisy.mkv', { denoise })).compared!.map(({ ssimAll }) => ssimAll));
    expect(await lowest(0)).toBeGreaterThan(0.999);
    expect(await lowest(1)).toBeLessThan(0.9);
  });

  it.each([{}, { frameRate: 'half' }])('is taken out of a group as it is out of the whole, %j', async (time) => {
    const source = inFolder('noisy.mkv');
    const { facts, clock } = await lookAtFile(source);
    const recipe = { video: QUALITY, picture: { denoise: 1 }, audio: null, time };
    const parsed = parseWith<Recipe>(recipeSchema, recipe);
    if (!parsed.ok) throw new Error(parsed.faults[0].message);
    const planned = planRendition({
      ...{ facts, clock, recipe: parsed.value, portion: null, sounding: null },
      encoders: ['h264'],
    });
    if (!planned.ok) throw new Error(planned.problems[0]!.message);
    const whole = pictureOf(planned.plan)!;
    const span = { first: 20, count: 5 };
    const own = framesOf(source, whole).subarray(span.first * FRAME, (span.first + span.count) * FRAME);
    const taken = framesOf(source, takeFrames(facts, clock, whole, span));
    expect(taken.length).toBe(own.length);
    const apart = own.map((value, at) => Math.abs(value - taken[at]!));
    expect(apart.reduce((most, one) => Math.max(most, one), 0)).toBeLessThanOrEqual(2);
    expect(apart.subarray(0, FRAME).reduce((sum, one) => sum + one, 0) / FRAME).toBeLessThan(0.25);
  });
});

const FRAME = 320 * 180 * 1.5;

/** Frames as they go into an encoder. */
function framesOf(source: string, picture: PicturePath): Uint8Array {
  const graph = ['-map', `0:${picture.from.streamIndex}`, '-vf', encodeGraph(picture), '-fps_mode', 'passthrough'];
  return execFileSync(
    'ffmpeg',
    ['-v', 'error', ...inputPortion(source, picture.from), ...graph, '-f', 'rawvideo', '-'],
    { maxBuffer: 20_000_000 },
  );
}
