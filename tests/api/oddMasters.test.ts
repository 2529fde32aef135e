import { mkdirSync } from 'node:fs';
import path from 'node:path';
import { afterAll, beforeAll, describe, expect, it, vi } from 'vitest';
import type { BatchPlan } from '../../src/contract/batch.ts';
import type { AnalysisView, RenditionView } from '../../src/contract/views.ts';
import { cutOpening, draw } from '../support/footage.ts';
import { makeFolders, startServer, type TestServer } from '../support/server.ts';

const folders = makeFolders();
let server: TestServer;

beforeAll(async () => {
  mkdirSync(folders.media, { recursive: true });
  server = await startServer(folders);
});
afterAll(() => server.end('SIGTERM'));

const tone = (seconds: number, rate = 48000) => ['-f', 'lavfi', '-i', `sine=f=440:r=${rate}:d=${seconds}`];
const moving = (seconds: number, rate = '25') => [
  ...['-f', 'lavfi', '-i', `testsrc2=s=320x180:r=${rate}:d=${seconds},format=yuv420p`],
];
const COMMON = ['-c:v', 'libx264', '-preset', 'ultrafast', '-g', '50', '-c:a', 'aac'];

const HEVC_OPEN = 'open-gop=1:keyint=50:log-level=none';

interface Row {
  readonly name: string;
  readonly draw: (file: string) => unknown;
  readonly recipe: object;
  readonly portion?: object;
  readonly made?: object;
}

const WEB = {
  video: { codec: 'h264', rate: { mode: 'quality', value: 30 }, effort: 'fast' },
  audio: { codec: 'aac', kbps: 64, channels: 'mono' },
};
const SOUND = { container: 'mp3', video: null, audio: { codec: 'mp3', kbps: 64, channels: 'mono' } };

/** Masters as they come, each with what is wanted of it. */
const ROWS: readonly Row[] = [
  {
    name: 'broadcast.ts',
    draw: (file) => cutOpening(file, [...moving(5), ...tone(5), ...COMMON]),
    recipe: WEB,
  },
  {
    name: 'part.ts',
    draw: (file) => cutOpening(file, [...moving(5), ...tone(5), ...COMMON]),
    recipe: { container: 'matroska', video: { codec: 'copy' }, audio: WEB.audio },
    portion: { inFrame: 40, outFrame: 60 },
    made: { plan: { span: { inFrame: 0 } } },
  },
  {
    // Without keyframes after the first: its picture is refreshed in columns.
    name: 'refresh.ts',
    draw: (file) =>
      draw(file, [
        ...moving(6),
        ...tone(6),
        '-c:v',
        'libx264',
        '-x264-params',
        'intra-refresh=1:keyint=50',
        '-c:a',
        'aac',
      ]),
    recipe: { container: 'matroska', video: { codec: 'copy' }, audio: { codec: 'copy' } },
  },
  {
    // Pictures in front of a keyframe that need what was cut off before it.
    name: 'open.ts',
    draw: (file) => cutOpening(file, [...moving(5), ...tone(5), ...COMMON, '-x264-params', 'open-gop=1:bframes=3']),
    recipe: WEB,
  },
  {
    // Before its first keyframe some pictures decode, badly, and one does not.
    name: 'open-hevc.ts',
    draw: (file) =>
      cutOpening(file, [...moving(5), ...tone(5), '-c:v', 'libx265', '-x265-params', HEVC_OPEN, '-c:a', 'aac']),
    recipe: WEB,
  },
  {
    // A length that is not a whole number of milliseconds.
    name: 'rate.mov',
    draw: (file) => draw(file, [...moving(4.93, '30000/1001'), ...tone(4.93), ...COMMON]),
    recipe: WEB,
  },
  { name: 'radio.mp3', draw: (file) => draw(file, [...tone(5, 44100), '-c:a', 'libmp3lame']), recipe: SOUND },
  {
    name: 'black.mp4',
    draw: (file) =>
      draw(file, ['-f', 'lavfi', '-i', 'color=black:s=320x180:r=25:d=3,format=yuv420p', ...COMMON, '-an']),
    recipe: {
      video: { codec: 'h264', rate: { mode: 'size', bytes: 200_000 }, effort: 'fast' },
      audio: null,
    },
    made: { fill: { outcome: 'saturated', retouches: [] } },
  },
  ...[WEB.audio, { codec: 'copy' }, null].map((audio, number) => ({
    // Its picture begins later than its sound, at a time that Matroska rounded.
    name: `late-${number}.mkv`,
    draw: (file: string) =>
      draw(file, [
        ...[...moving(3), ...tone(3), ...tone(3 + number, 44100), '-map', '0', '-map', '1', '-map', '2'],
        ...[...COMMON, '-c:a:1', 'libmp3lame'],
      ]),
    recipe: { video: { codec: 'copy' }, audio },
    made: { outline: { codec: 'copy' } },
  })),
  {
    name: 'loop.gif',
    draw: (file) => draw(file, moving(1)),
    recipe: { video: WEB.video, audio: null },
    made: { outline: { codec: 'h264' } },
  },
  {
    name: 'animation.mov',
    draw: (file) => draw(file, ['-f', 'lavfi', '-i', 'color=red@0.5:s=64x64:r=25:d=1,format=argb', '-c:v', 'qtrle']),
    recipe: { container: 'mov', video: { codec: 'prores', flavour: '4444', alpha: true }, audio: null },
    made: { outline: { codec: 'prores' }, plan: { streams: [{ out: { format: '444p10a' } }] } },
  },
];

describe('a master as it comes', () => {
  it.each(ROWS)('$name is analysed, and what is made of it passes', async (row) => {
    const { name, draw: drawRow, recipe, portion = null, made } = row;
    const file = path.join(folders.media, name);
    drawRow(file);
    const { id } = await server.takeIn(file);
    const analysis = await vi.waitUntil(
      async () => {
        const { body } = await server.call<AnalysisView>('GET', `programmes/${id}/analysis`);
        return ['done', 'failed'].includes(body.state) && body;
      },
      { timeout: 60_000, interval: 100 },
    );
    expect(analysis.problem).toBeUndefined();
    const { body } = await server.call<RenditionView>('POST', 'renditions', { programmeId: id, recipe, portion });
    const ended = await server.waitFor(body.id);
    expect(ended.problem).toBeUndefined();
    expect(ended).toMatchObject({ state: 'done', ...made });
  });
});

describe('a recipe for many', () => {
  const tape = (file: string) =>
    draw(file, [
      ...['-f', 'lavfi', '-i', 'testsrc2=s=320x192:r=50:d=1', '-vf', 'tinterlace=mode=interleave_bottom,setfield=bff'],
      ...['-c:v', 'libx264', '-preset', 'ultrafast', '-pix_fmt', 'yuv422p10le', '-flags', '+ildct'],
      ...['-x264-params', 'bff=1'],
    ]);
  const planned = async (asked: object) => (await server.call<BatchPlan>('POST', 'batches?dry', asked)).body.rows;

  it('takes fields apart where a programme has them, and leaves an order as it was given', async () => {
    const { id } = await server.takeIn(tape(path.join(folders.media, 'for many.mov')));
    const whole = await server.takeIn(draw(path.join(folders.media, 'whole.mov'), [...moving(1), ...COMMON]));
    const rows = await planned({ programmeIds: [id, whole.id], recipes: [WEB] });
    expect(rows.map(({ recipe }) => recipe.picture.deinterlace)).toEqual(['bottom-first', null]);
    expect(rows[0]?.advisories.map(({ code }) => code)).not.toContain('interlaced');
    const [given] = await planned({ orders: [{ programmeId: id, recipe: WEB }] });
    expect(given?.recipe.picture.deinterlace).toBeNull();
    expect(given?.advisories.map(({ code }) => code)).toContain('interlaced');
  });

  it('stores each programme whole where nothing is to be lost', async () => {
    const { id } = await server.takeIn(tape(path.join(folders.media, 'for keeping.mov')));
    const [kept] = await planned({ programmeIds: [id], recipes: ['stock-archive'] });
    const video = { codec: 'ffv1', chroma: '4:2:2', bitDepth: 10 };
    expect(kept).toMatchObject({ state: 'ready', recipe: { video, picture: { deinterlace: null, fit: null } } });
    expect(kept?.advisories).toEqual([]);
  });
});
