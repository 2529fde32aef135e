import { readFileSync } from 'node:fs';
import path from 'node:path';
import { beforeAll, describe, expect, it } from 'vitest';
import { compileKernel, KERNEL_MODULE, writeModule } from '../../scripts/kernel/compileKernel.ts';
import { pictureOf } from '../../src/core/plan/encodePlan.ts';
import { lookCloser } from '../../src/core/quality/closerLook.ts';
import { createEngine } from '../../src/engine/createEngine.ts';
import { draw, makeFolder } from '../support/footage.ts';
import { makeRendition } from '../support/encode.ts';

const engine = createEngine({ ffmpeg: 'ffmpeg', ffprobe: 'ffprobe' });
const folder = makeFolder();
const options = { workingFolder: folder, signal: new AbortController().signal, onProgress: () => undefined };
const BT709 = ['-color_primaries', 'bt709', '-color_trc', 'bt709', '-colorspace', 'bt709', '-color_range', 'tv'];
const LOSSLESS = ['-c:v', 'libx264', '-preset', 'ultrafast', '-qp', '0', '-pix_fmt', 'yuv420p', ...BT709];
let master = '';

beforeAll(() => {
  // Colours that are not grey in the mean, so that a wrong matrix is seen.
  master = draw(path.join(folder, 'colours.mov'), [
    ...['-f', 'lavfi', '-i', 'color=s=320x180:d=1:r=25'],
    ...['-vf', "format=yuv420p,geq=lum='40+X*0.3+Y*0.25':cb='98+X*0.01':cr='158-X*0.01'", ...LOSSLESS],
  ]);
});

/** A result made otherwise than asked, held against the master in every way. */
async function compareWith(filter: string) {
  const video = { codec: 'h264', effort: 'fast', rate: { mode: 'quality', value: 20 } };
  const { plan } = await makeRendition(engine, folder, master, { video, audio: null });
  const picture = pictureOf(plan)!;
  const result = draw(path.join(folder, 'result.mp4'), ['-i', master, '-vf', filter, ...LOSSLESS]);
  return { picture, result, frames: (await engine.compare(master, [{ picture, file: result }], options))[0]! };
}

describe('a comparison', () => {
  it('tells the same SSIM and PSNR as a measurement, of every frame, and nothing of what is the same', async () => {
    const { picture, result, frames } = await compareWith('null');
    const measured = await engine.measure(master, { picture, file: result }, options);
    expect(frames).toHaveLength(25);
    expect(frames).toMatchObject(measured);
    expect(frames.every(({ mseWeighted }) => mseWeighted === 0)).toBe(true);
    expect(lookCloser(frames, 255, 'bt709')?.tint).toMatchObject({ cause: null, red: 0, green: 0, blue: 0 });
  });

  it('holds the master against those frames of a result that are meant, and leaves what lies around them', async () => {
    const { picture, result } = await compareWith('tpad=start=4:stop=3:color=red');
    const compared = { picture, file: result, only: { first: 4, count: 25 } };
    const frames = (await engine.compare(master, [compared], options))[0]!;
    expect(frames).toHaveLength(25);
    expect(frames.every(({ ssimAll, mseWeighted }) => ssimAll === 1 && mseWeighted === 0)).toBe(true);
  });

  it('of several results at once tells of each what it tells of it alone', async () => {
    const { picture } = await compareWith('null');
    const video = { codec: 'h264', effort: 'fast', rate: { mode: 'quality', value: 34 } };
    const small = await makeRendition(engine, folder, master, { video, picture: { fit: { height: 90 } }, audio: null });
    const results = [
      { picture, file: draw(path.join(folder, 'darker.mp4'), ['-i', master, '-vf', 'lutyuv=y=val-9', ...LOSSLESS]) },
      { picture: pictureOf(small.plan)!, file: small.file },
      {
        picture,
        file: draw(path.join(folder, 'coarse.mp4'), ['-i', master, '-vf', "lutyuv=y='floor(val/8)*8'", ...LOSSLESS]),
      },
    ] as const;
    const together = await engine.compare(master, results, options);
    expect(together.map(({ length }) => length)).toEqual([25, 25, 25]);
    for (const [index, result] of results.entries()) {
      const [alone] = await engine.compare(master, [result], options);
      expect(together[index]).toEqual(alone);
    }
  });

  it('tells a picture in the matrix of another standard', async () => {
    const { frames } = await compareWith('scale=in_color_matrix=bt709:out_color_matrix=bt601,format=yuv420p');
    const { tint } = lookCloser(frames, 255, 'bt709')!;
    expect(tint.cause).toBe('other-matrix');
  });

  it('tells levels of full range that are tagged as limited', async () => {
    const { frames } = await compareWith('scale=in_range=tv:out_range=pc,format=yuv420p');
    expect(lookCloser(frames, 255, 'bt709')!.tint.cause).toBe('full-as-limited');
  });

  it('tells where levels of a gradient were lost', async () => {
    const { frames } = await compareWith("lutyuv=y='floor(val/8)*8'");
    const { banding } = lookCloser(frames, 255, 'bt709')!;
    expect(banding.smooth).toBeGreaterThan(0.5);
    expect(banding.banded).toBeGreaterThan(banding.smooth * 0.5);
  });
});

describe('the compiled sums', () => {
  it('are what their source compiles to', async () => {
    expect(readFileSync(KERNEL_MODULE, 'utf8')).toBe(writeModule(await compileKernel()));
  });
});
