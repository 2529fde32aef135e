import { readFileSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { beforeAll, describe, expect, it } from 'vitest';
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
    ...['-f', 'lavfi', '-i', 'testsrc2=s=160x90:r=25:d=3', '-f', 'lavfi', '-i', 'sine=f=440:r=48000:d=3'],
    ...['-c:v', 'libx265', '-preset', 'ultrafast', '-c:a', 'aac'],
    ...['-pix_fmt', 'yuv420p10le', '-x265-params', `log-level=error:${light}`],
    ...['-color_primaries', 'bt2020', '-color_trc', 'smpte2084', '-colorspace', 'bt2020nc', '-color_range', 'tv'],
  ]);
});

/** A box with what comes in it (ISO/IEC 14496-12). */
function box(name: string, content: Buffer): Buffer {
  const head = Buffer.alloc(8);
  head.writeUInt32BE(8 + content.length);
  head.write(name, 4, 'latin1');
  return Buffer.concat([head, content]);
}

/** The same file with its light told in the container too, in boxes beside its parameter sets: frames lie before them. */
function tellInContainer(file: string): string {
  const before = readFileSync(file);
  const display = Buffer.alloc(24);
  [13250, 34500, 7500, 3000, 34000, 16000, 15635, 16450].forEach((one, at) => display.writeUInt16BE(one, at * 2));
  display.writeUInt32BE(10_000_000, 16);
  display.writeUInt32BE(50, 20);
  const told = Buffer.concat([
    box('mdcv', display),
    box('clli', Buffer.from([900 >> 8, 900 & 255, 400 >> 8, 400 & 255])),
  ]);
  const parameters = before.indexOf('hvcC') - 4;
  for (const name of ['moov', 'trak', 'mdia', 'minf', 'stbl', 'stsd', 'hev1']) {
    const at = before.lastIndexOf(name, parameters) - 4;
    before.writeUInt32BE(before.readUInt32BE(at) + told.length, at);
  }
  const end = parameters + before.readUInt32BE(parameters);
  const after = path.join(folder, 'told outside.mp4');
  writeFileSync(after, Buffer.concat([before.subarray(0, end), told, before.subarray(end)]));
  return after;
}

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
    ['what was brought down to standard range', 'mp4', { codec: 'hevc', ...DEEP }, { dynamicRange: 'standard' }],
    ['the same in Matroska', 'matroska', { codec: 'av1', ...DEEP }, { dynamicRange: 'standard' }],
  ])('is not told by %s', async (_name, container, video, picture) => {
    const outside = tellInContainer(master);
    expect(await lightOf(outside)).toMatchObject({ contentMost: 900 });
    const made = await makeRendition(engine, folder, outside, { container, video, picture, audio: { codec: 'opus' } });
    expect(made.checks.filter(({ ok }) => !ok)).toEqual([]);
    expect(await lightOf(made.file)).toBeNull();
  });

  it('is not told by a codec that cannot, and a person is told so', async () => {
    const made = await makeRendition(engine, folder, master, { video: { codec: 'h264', ...DEEP }, audio: null });
    expect(await lightOf(made.file)).toBeNull();
    expect(made.plan.advisories.map(({ message }) => message).join()).toContain('is not told in the file');
  });
});
