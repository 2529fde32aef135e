import { createHash } from 'node:crypto';
import { chmodSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { ProgrammeView, RenditionView, SystemView } from '../../src/contract/views.ts';
import { draw, drawMaster } from '../support/footage.ts';
import { makeFolders, startServer, type TestServer } from '../support/server.ts';

/**
 * What the application writes stays bit for bit what it was, unless a change means to change it: digests of whole files
 * by Debian 12's encoders. Every engine runs on one core, since encoders that share a picture out among threads write
 * other bits with another number of them.
 */
const DIGESTS: Readonly<Record<string, string>> = {
  'H.264 at constant quality': '0c3c17c33ec5118f14df0f34d7029f93',
  'HEVC at constant quality': '2769175b1e35dc62cae20460a632da4f',
  'H.264 filling a size': '45283fc22a2092a4757b1502178b7e60',
  'HEVC filling a size': 'd29a9c9936375139ee9f25a9fa28f536',
  'H.264 averaging in two passes, mono at 44.1 kHz': '8754a0aa2fef585ab9ebaf275458bfda',
  'H.264 averaging in one pass, silent': 'bb65d809022ce3e64d37889cd5accd42',
  'a portion': 'd4b24fa630337d8c88710c55d2876b55',
  'an SD tape, deinterlaced and cropped': '8bbc29162897d98e942f447ab120324d',
  'a varying rate': '32a89bd9ee4053f03d1277139154bc50',
  'a copy': 'bdf9fce46aec00f1abac8affd518d770',
  'sound alone': '88e5531a79b3f7ae56b8ada9819fedb3',
};

const folders = makeFolders();
const masters = new Map<string, ProgrammeView>();
let server: TestServer;

const video = (codec: string, rate: unknown, effort = 'fast') => ({ codec, rate, effort });
const quality = (value: number) => ({ mode: 'quality', value });
const size = (bytes: number) => ({ mode: 'size', bytes });
const aac = { codec: 'aac', kbps: 96, channels: 'stereo' };

const ORDERS: readonly (readonly [name: string, master: string, recipe: object, portion?: object])[] = [
  [
    'H.264 at constant quality',
    'film',
    { video: video('h264', quality(26)), picture: { fit: { height: 90 } }, audio: aac },
  ],
  [
    'HEVC at constant quality',
    'film',
    { video: video('hevc', quality(27)), picture: { fit: { height: 90 } }, audio: aac },
  ],
  ['H.264 filling a size', 'film', { video: video('h264', size(150_000)), audio: aac }],
  ['HEVC filling a size', 'film', { video: video('hevc', size(90_000)), audio: aac }],
  [
    'H.264 averaging in two passes, mono at 44.1 kHz',
    'film',
    {
      video: video('h264', { mode: 'average', kbps: 300, passes: 2 }, 'balanced'),
      audio: { codec: 'aac', kbps: 64, channels: 'mono', sampleRate: 44100 },
    },
  ],
  [
    'H.264 averaging in one pass, silent',
    'film',
    { video: video('h264', { mode: 'average', kbps: 300, passes: 1 }), audio: null },
  ],
  ['a portion', 'film', { video: video('h264', quality(26)), audio: aac }, { inFrame: 11, outFrame: 40 }],
  [
    'an SD tape, deinterlaced and cropped',
    'tape',
    {
      video: video('h264', quality(24)),
      picture: { deinterlace: 'top-first', crop: { top: 8, bottom: 8, left: 0, right: 0 }, fit: { height: 180 } },
      audio: aac,
    },
  ],
  ['a varying rate', 'varying', { video: video('h264', quality(26)), audio: aac }],
  ['a copy', 'copied', { video: { codec: 'copy' }, audio: { codec: 'copy' } }],
  ['sound alone', 'film', { video: null, audio: aac }],
];

beforeAll(async () => {
  mkdirSync(folders.media, { recursive: true });
  const onOneCore = (program: string) => {
    const file = path.join(folders.root, program);
    writeFileSync(file, `#!/bin/sh\nexec taskset -c 0 ${program} "$@"\n`);
    chmodSync(file, 0o755);
    return file;
  };
  const inMedia = (name: string) => path.join(folders.media, name);
  const plain = ['-threads', '1', '-bitexact'];
  drawMaster(inMedia('film.mov'), { seconds: 2, extra: plain });
  draw(inMedia('tape.mov'), [
    ...['-f', 'lavfi', '-i', 'testsrc2=s=720x576:r=50:d=1,interlace=scan=tff,setsar=64/45,format=yuv420p'],
    ...['-f', 'lavfi', '-i', 'sine=frequency=300:sample_rate=48000:duration=1'],
    ...['-c:v', 'libx264', '-preset', 'ultrafast', '-crf', '8', '-flags', '+ildct', '-top', '1'],
    ...['-field_order', 'tt', '-c:a', 'pcm_s16le', ...plain],
  ]);
  draw(inMedia('varying.mkv'), [
    ...['-f', 'lavfi', '-i', "testsrc2=s=320x180:r=30:d=2,select='gte(n,30)+not(eq(mod(n,3),1))',format=yuv420p"],
    ...['-f', 'lavfi', '-i', 'sine=frequency=300:sample_rate=48000:duration=2'],
    ...[
      '-fps_mode',
      'passthrough',
      '-c:v',
      'libx264',
      '-preset',
      'ultrafast',
      '-crf',
      '8',
      '-c:a',
      'pcm_s16le',
      ...plain,
    ],
  ]);
  draw(inMedia('copied.mp4'), ['-i', inMedia('film.mov'), ...['-c:v', 'copy', '-c:a', 'aac', ...plain]]);
  server = await startServer(folders, { LINSTOCK_FFMPEG: onOneCore('ffmpeg') });
  for (const name of ['film.mov', 'tape.mov', 'varying.mkv', 'copied.mp4']) {
    masters.set(path.parse(name).name, await server.takeIn(inMedia(name)));
  }
});

afterAll(() => server.end('SIGTERM'));

describe('what is written', () => {
  const orders = ORDERS.map(([name, master, recipe, portion = null]) => ({ name, master, recipe, portion }));
  it.each(orders)('$name is the same as before', async ({ name, master, recipe, portion }) => {
    const { engine } = (await server.call<SystemView>('GET', 'system')).body;
    expect(engine.version, 'the digests are those of Debian 12’s engine').toMatch(/^5\.1\./);
    const { status, body } = await server.call<RenditionView>('POST', 'renditions', {
      programmeId: masters.get(master)!.id,
      recipe,
      portion,
    });
    expect({ status, body }).toMatchObject({ status: 201 });
    const done = await server.waitFor(body.id);
    expect(done).toMatchObject({ state: 'done' });
    expect(createHash('md5').update(readFileSync(done.path)).digest('hex')).toBe(DIGESTS[name]);
  });
});
