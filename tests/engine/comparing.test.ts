import { execFile } from 'node:child_process';
import { readFileSync } from 'node:fs';
import path from 'node:path';
import { promisify } from 'node:util';
import { beforeAll, describe, expect, it } from 'vitest';
import { compileKernel, KERNEL_MODULE, writeModule } from '../../scripts/kernel/compileKernel.ts';
import { pictureOf } from '../../src/core/plan/encodePlan.ts';
import { lookCloser } from '../../src/core/quality/closerLook.ts';
import { createEngine } from '../../src/engine/createEngine.ts';
import { comparePictures } from '../../src/engine/runs/compare.ts';
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

const PLAIN = { codec: 'h264', effort: 'fast', rate: { mode: 'quality', value: 20 } };

/** What the engine's filters say of a result of the same size. */
async function byFilters(reference: string, result: string) {
  const graph = '[0:v]split[a][b];[1:v]split[c][d];[a][c]ssim=stats_file=ssim.log[e];[b][d]psnr=stats_file=psnr.log[f]';
  const outputs = ['[e]', '[f]'].flatMap((label) => ['-map', label, '-f', 'null', '-']);
  const inputs = ['-i', result, '-i', reference];
  await promisify(execFile)('ffmpeg', ['-v', 'error', ...inputs, '-filter_complex', graph, ...outputs], {
    cwd: folder,
  });
  const read = (name: string, value: RegExp) =>
    Array.from(readFileSync(path.join(folder, name), 'utf8').matchAll(value), ([, number]) => Number(number));
  const [ssimLuma, ssimAll] = [read('ssim.log', / Y:([\d.]+)/g), read('ssim.log', / All:([\d.]+)/g)];
  const [mseLuma, mseAll] = [read('psnr.log', / mse_y:([\d.]+)/g), read('psnr.log', / mse_avg:([\d.]+)/g)];
  return ssimLuma.map((one, at) => ({
    ssimLuma: one,
    ssimAll: ssimAll[at]!,
    mseLuma: mseLuma[at]!,
    mseAll: mseAll[at]!,
  }));
}

/** A result made otherwise than asked, held against the master in every way. */
async function compareWith(filter: string) {
  const { plan } = await makeRendition(engine, folder, master, { video: PLAIN, audio: null });
  const picture = pictureOf(plan)!;
  const result = draw(path.join(folder, 'result.mp4'), ['-i', master, '-vf', filter, ...LOSSLESS]);
  return { picture, result, frames: (await engine.compare(master, [{ picture, file: result }], options))[0]! };
}

describe('a comparison', () => {
  // The engine's own filters, which are independent of what is compared here: `ssim` and `psnr` of FFmpeg.
  it.each([
    ['null', 'yuv420p', '320x180'],
    ['noise=c0s=9:c1s=5:c2s=12:allf=t', 'yuv420p', '320x180'],
    ['boxblur=3,eq=brightness=0.02', 'yuv420p', '322x186'],
    ['noise=alls=20:allf=t', 'yuv420p10le', '298x174'],
  ])('after %s in %s at %s tells the SSIM and PSNR that the engine’s filters tell', async (filter, format, size) => {
    const kept = LOSSLESS.map((word) => (word === 'yuv420p' ? format : word));
    const drawn = ['-f', 'lavfi', '-i', `testsrc2=s=${size}:d=0.4:r=25`, ...kept];
    const own = draw(path.join(folder, `own-${format}-${size}.mov`), drawn);
    const result = draw(path.join(folder, 'result.mp4'), ['-i', own, '-vf', filter, ...kept]);
    const { plan } = await makeRendition(engine, folder, own, { video: PLAIN, audio: null });
    const [frames = []] = await engine.compare(own, [{ picture: pictureOf(plan)!, file: result }], options);
    const told = await byFilters(own, result);
    expect(frames).toHaveLength(10);
    expect(told).toHaveLength(10);
    told.forEach(({ ssimLuma, ssimAll, mseLuma, mseAll }, index) => {
      const frame = frames[index]!;
      // Logs have six digits and two.
      expect(Math.abs(frame.ssimLuma - ssimLuma)).toBeLessThan(0.000002);
      expect(Math.abs(frame.ssimAll - ssimAll)).toBeLessThan(0.000002);
      expect(Math.abs(frame.mseLuma - mseLuma)).toBeLessThan(0.0051);
      expect(Math.abs(frame.mseAll - mseAll)).toBeLessThan(0.0051);
    });
  });

  it.each([
    [20, 'trim=end_frame=20'],
    [25, 'tpad=stop=5:color=red'],
  ])('has an entry for each of %i frames that both have after %s', async (count, filter) => {
    const { frames } = await compareWith(filter);
    expect(frames).toHaveLength(count);
    expect(frames.every(({ ssimAll, mseAll }) => ssimAll === 1 && mseAll === 0)).toBe(true);
  });

  it('tells nothing of what is the same', async () => {
    const { frames } = await compareWith('null');
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

  it('ends with its reason where nobody reads the pictures any more', async () => {
    const { picture, result } = await compareWith('null');
    const reason = new Error('The thread was not started.');
    const threads = { read: () => ({ open: Promise.resolve(), found: Promise.reject(reason) }) };
    const paths = { ffmpeg: 'ffmpeg', ffprobe: 'ffprobe' };
    const compared = comparePictures(paths, threads, master, [{ picture, file: result }], options);
    await expect(compared).rejects.toBe(reason);
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
