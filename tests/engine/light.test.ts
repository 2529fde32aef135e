import path from 'node:path';
import { beforeAll, describe, expect, it } from 'vitest';
import { pictureOf } from '../../src/core/plan/encodePlan.ts';
import { createEngine } from '../../src/engine/createEngine.ts';
import { makeRendition } from '../support/encode.ts';
import { draw, makeFolder } from '../support/footage.ts';

const engine = createEngine({ ffmpeg: 'ffmpeg', ffprobe: 'ffprobe' });
const folder = makeFolder();
const master = path.join(folder, 'bright.mp4');

/** A display of the primaries of digital cinema and the white of daylight (SMPTE RP 431-2, from memory). */
const TOLD = {
  masteringLeast: 0.005,
  masteringMost: 1000,
  contentMost: 900,
  frameAverageMost: 400,
  masteringColour: { red: [0.68, 0.32], green: [0.265, 0.69], blue: [0.15, 0.06], white: [0.3127, 0.329] },
};

beforeAll(() => {
  const light = 'master-display=G(13250,34500)B(7500,3000)R(34000,16000)WP(15635,16450)L(10000000,50):max-cll=900,400';
  draw(master, [
    ...['-f', 'lavfi', '-i', 'testsrc2=s=160x90:r=25:d=3', '-c:v', 'libx265', '-preset', 'ultrafast'],
    ...['-pix_fmt', 'yuv420p10le', '-x265-params', `log-level=error:${light}`],
    ...['-color_primaries', 'bt2020', '-color_trc', 'smpte2084', '-colorspace', 'bt2020nc', '-color_range', 'tv'],
  ]);
});

const lightOf = async (file: string) => (await engine.probe(file)).facts.video?.light ?? null;

const DEEP = { effort: 'fast', bitDepth: 10, rate: { mode: 'quality', value: 34 } };

describe('how bright a picture gets', () => {
  it('is read from its frames', async () => {
    expect(await lightOf(master)).toEqual(TOLD);
  });

  it.each([
    ['HEVC', 'mp4', { codec: 'hevc', ...DEEP }],
    ['HEVC that fills a size', 'mp4', { codec: 'hevc', ...DEEP, rate: { mode: 'size', bytes: 40_000 } }],
    ['AV1', 'webm', { codec: 'av1', ...DEEP }],
    ['AV1 that fills a size', 'matroska', { codec: 'av1', ...DEEP, rate: { mode: 'size', bytes: 40_000 } }],
  ])('is told by %s in %s', async (_name, container, video) => {
    const made = await makeRendition(engine, folder, master, { container, video, audio: null });
    expect(made.checks.filter(({ ok }) => !ok)).toEqual([]);
    expect(made.checks.find(({ name }) => name === 'Brightness')?.found).toContain('to 1000 cd/m²');
    expect(await lightOf(made.file)).toMatchObject({ contentMost: 900, frameAverageMost: 400 });
    expect(made.plan.advisories.map(({ message }) => message).join()).not.toContain('is not told in the file');
  });

  it.each([
    ['what was brought down to standard range', { codec: 'hevc', ...DEEP }, { dynamicRange: 'standard' }],
    ['a codec that cannot, and a person is told so', { codec: 'h264', ...DEEP }, {}],
  ])('is not told by %s', async (_name, video, picture) => {
    const made = await makeRendition(engine, folder, master, { video, picture, audio: null });
    expect(made.checks.filter(({ ok }) => !ok)).toEqual([]);
    expect(await lightOf(made.file)).toBeNull();
    const isKept = pictureOf(made.plan)?.out.colour.transfer === 'smpte2084';
    const told = made.plan.advisories.some(({ message }) => message.includes('is not told in the file'));
    expect(told).toBe(isKept);
  });
});
