import path from 'node:path';
import { PNG } from 'pngjs';
import { ssim } from 'ssim.js';
import { describe, expect, it } from 'vitest';
import { pictureOf } from '../../src/core/plan/encodePlan.ts';
import { planRendition } from '../../src/core/plan/planRendition.ts';
import { STARTING_RECIPE, OWN_PICTURE } from '../../src/core/recipe/recipe.ts';
import { createEngine } from '../../src/engine/createEngine.ts';
import { masterRequest } from '../../src/server/stills/stillRequests.ts';
import { lookAtFile } from '../support/analyse.ts';
import { draw, drawMaster, makeFolder } from '../support/footage.ts';

const engine = createEngine({ ffmpeg: 'ffmpeg', ffprobe: 'ffprobe' });

// SSIM as published (Wang, Bovik, Sheikh, Simoncelli 2004: 11 × 11 Gaussian, K1 0.01, K2 0.03; values from memory),
// computed by the independent package ssim.js. Here windows are 8 × 8, all samples alike, instead, so the two agree in level and
// order, not to the last digit.
describe('SSIM against the published window', () => {
  it('agrees within 0.03 and ranks frames of different quality alike', async () => {
    const folder = makeFolder();
    const master = drawMaster(path.join(folder, 'master.mov'), { seconds: 2, grain: 0 });
    const { facts, clock } = await lookAtFile(master);
    const outcome = planRendition({
      facts,
      clock,
      recipe: { ...STARTING_RECIPE, picture: OWN_PICTURE },
      portion: null,
      encoders: ['h264', 'aac'],
      sounding: null,
    });
    const picture = outcome.ok && pictureOf(outcome.plan);
    if (!picture) throw new Error('The plan was refused.');
    const pairs: { own: number; published: number }[] = [];
    for (const quality of [18, 30, 40, 48]) {
      const result = draw(path.join(folder, `${quality}.mp4`), [
        '-i',
        master,
        '-c:v',
        'libx264',
        '-crf',
        String(quality),
        '-an',
        '-color_range',
        'tv',
        '-colorspace',
        'bt709',
        '-color_primaries',
        'bt709',
        '-color_trc',
        'bt709',
      ]);
      const options = { workingFolder: folder, signal: new AbortController().signal, onProgress: () => undefined };
      const [frames] = await engine.compare(master, [{ picture, file: result }], options);
      const own = frames![20]!.ssimLuma;
      const { facts: found } = await engine.probe(result);
      const [a, b] = await Promise.all(
        [masterRequest(master, facts, clock, 20, null), masterRequest(result, found, clock, 20, null)].map(
          async (request) => readGrey(await engine.still(request)),
        ),
      );
      pairs.push({ own, published: ssim(a as never, b as never, { ssim: 'original', downsample: false }).mssim });
    }
    for (const { own, published } of pairs) expect(Math.abs(own - published)).toBeLessThan(0.03);
    expect(pairs.map((pair) => pair.own)).toEqual(pairs.map((pair) => pair.own).toSorted((a, b) => b - a));
    expect(pairs.map((pair) => pair.published)).toEqual(pairs.map((pair) => pair.published).toSorted((a, b) => b - a));
  });
});

function readGrey(png: Buffer): { data: Uint8ClampedArray; width: number; height: number } {
  const { data, width, height } = PNG.sync.read(png);
  return { data: new Uint8ClampedArray(data), width, height };
}
