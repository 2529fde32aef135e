import {
  appendFileSync,
  chmodSync,
  mkdirSync,
  readFileSync,
  renameSync,
  existsSync,
  symlinkSync,
  utimesSync,
  writeFileSync,
} from 'node:fs';
import { execFileSync } from 'node:child_process';
import path from 'node:path';
import { Upload } from 'tus-js-client';
import { afterAll, beforeAll, describe, expect, it, vi } from 'vitest';
import type {
  AnalysisView,
  ErrorBody,
  PortionView,
  ProgrammeView,
  StripsView,
  TakeInView,
} from '../../src/contract/views.ts';
import { draw, drawMaster } from '../support/footage.ts';
import { makeFolders, startServer, type TestServer } from '../support/server.ts';

const folders = makeFolders();
const inMedia = (name: string) => path.join(folders.media, name);
let server: TestServer;

const WAITING = { timeout: 20_000, interval: 100 };

beforeAll(async () => {
  mkdirSync(inMedia('rushes/deep'), { recursive: true });
  mkdirSync(inMedia('odd'));
  drawMaster(inMedia('master.mov'), { seconds: 3 });
  server = await startServer(folders);
});
afterAll(() => server.end('SIGTERM'));

async function finish(id: string): Promise<TakeInView> {
  for (;;) {
    const { body } = await server.call<TakeInView>('GET', `takein/${id}`);
    expect(body.takenIn + body.alreadyIn + body.refused.length).toBeLessThanOrEqual(body.found);
    if (body.state === 'done' || body.state === 'stopped') return body;
    await new Promise((resolve) => setTimeout(resolve, 50));
  }
}

async function takeInAll(paths: readonly string[], subfolders = false): Promise<TakeInView> {
  const { status, body } = await server.call<TakeInView>('POST', 'takein', { paths, subfolders });
  expect(status).toBe(202);
  const ended = await finish(body.id);
  expect(ended.found).toBe(ended.takenIn + ended.alreadyIn + ended.refused.length);
  return ended;
}

async function analysed(id: string): Promise<AnalysisView> {
  for (;;) {
    const { body } = await server.call<AnalysisView>('GET', `programmes/${id}/analysis`);
    if (body.state === 'done' || body.state === 'failed') return body;
    await new Promise((resolve) => setTimeout(resolve, 100));
  }
}

const programmes = async () => server.programmes();

describe('taking in a folder', () => {
  beforeAll(() => {
    for (const name of ['a.mov', 'b.mov', 'deep/c.mov']) drawMaster(inMedia(`rushes/${name}`), { seconds: 1 });
    writeFileSync(inMedia('rushes/notes.txt'), 'Scene 4 again');
    writeFileSync(inMedia('rushes/a.srt'), '1\n00:00:00,000 --> 00:00:01,000\nHello\n');
    writeFileSync(inMedia('rushes/.hidden.mov'), 'x');
    // Two loops: into itself, and up again from below.
    symlinkSync(inMedia('rushes'), inMedia('rushes/deep/again'));
    symlinkSync('.', inMedia('rushes/self'));
    execFileSync('mkfifo', [inMedia('rushes/pipe.mov')]);
  });

  it('counts every file once, with the reason for each that is none', async () => {
    const shallow = await takeInAll([inMedia('rushes')]);
    expect(shallow).toMatchObject({ state: 'done', found: 5, takenIn: 2, alreadyIn: 0 });
    expect(Object.fromEntries(shallow.refused.map((one) => [path.basename(one.path), one.code]))).toEqual({
      'notes.txt': 'file-not-media',
      'a.srt': 'caption-file',
      'pipe.mov': 'not-a-file',
    });
    for (const { message } of shallow.refused) expect(message).toMatch(/\.$/);
    const deep = await takeInAll([inMedia('rushes')], true);
    expect(deep).toMatchObject({ found: 6, takenIn: 1, alreadyIn: 2 });
    expect((await programmes()).map(({ name }) => name).sort()).toEqual(['a.mov', 'b.mov', 'c.mov']);
  });

  it('notices a caption file beside its programme', async () => {
    const listed = (await programmes()).find(({ name }) => name === 'a.mov');
    const { body: a } = await server.call<ProgrammeView>('GET', `programmes/${listed?.id}`);
    expect(a.sidecars).toEqual(['a.srt']);
  });

  it('takes the same file once, however often and by whatever way it is named', async () => {
    const again = await takeInAll([
      inMedia('rushes/b.mov'),
      inMedia('rushes/self/b.mov'),
      inMedia('rushes/../rushes/b.mov'),
    ]);
    expect(again).toMatchObject({ found: 1, alreadyIn: 1 });
  });

  it('lists what cannot be looked into', async () => {
    const lost = await takeInAll([inMedia('nowhere'), '/etc/passwd', 'relative.mov']);
    expect(lost.refused.map(({ code }) => code)).toEqual([
      'file-not-found',
      'outside-media-folders',
      'outside-media-folders',
    ]);
  });

  it('refuses a request that says nothing', async () => {
    const { status, body } = await server.call<ErrorBody>('POST', 'takein', { paths: [] });
    expect([status, body.error.field]).toEqual([400, 'paths']);
    expect((await server.call('GET', 'takein/none')).status).toBe(404);
  });

  it('can be stopped, and then says what was left', async () => {
    mkdirSync(inMedia('many'));
    const bytes = readFileSync(inMedia('master.mov'));
    for (let number = 0; number < 40; number += 1) writeFileSync(inMedia(`many/${number}.mov`), bytes);
    const { body } = await server.call<TakeInView>('POST', 'takein', { paths: [inMedia('many')] });
    const stopped = (await server.call<TakeInView>('DELETE', `takein/${body.id}`)).body;
    expect(stopped.state).toBe('stopped');
    expect(stopped.takenIn).toBeLessThan(40);
    const before = (await programmes()).length;
    // What is asked for later comes in, and nothing of what was stopped before it.
    writeFileSync(inMedia('after.mov'), bytes);
    await takeInAll([inMedia('after.mov')]);
    expect((await programmes()).length).toBe(before + 1);
  });
});

describe('odd files in a batch', () => {
  const film = (name: string) => drawMaster(inMedia(`odd/${name}`), { seconds: 1 });
  const tracks = Array.from({ length: 99 }, () => ['-map', '1:a']).flat();

  beforeAll(() => {
    writeFileSync(inMedia('odd/zero.mov'), '');
    writeFileSync(inMedia('odd/header only.mp4'), Buffer.from('0000001c66747970697 36f6d'.replace(' ', ''), 'hex'));
    // A movie box that holds no track.
    const empty = Buffer.concat([
      Buffer.from('00000010667479706d703432000000', 'hex'),
      Buffer.from('00', 'hex'),
      Buffer.from('000000746d6f6f760000006c6d766864', 'hex'),
      Buffer.alloc(100),
    ]);
    writeFileSync(inMedia('odd/no tracks.mp4'), empty);
    const whole = readFileSync(film('good "one" ’ two\n🎬 \u202eleft.mov'));
    writeFileSync(inMedia('odd/cut.mov'), whole.subarray(0, whole.length / 2));
    writeFileSync(inMedia('odd/wrong ending.txt'), whole);
    writeFileSync(inMedia(`odd/${'n'.repeat(251)}.mov`), whole);
    draw(inMedia('odd/1 by 1.mkv'), ['-f', 'lavfi', '-i', 'color=s=16x16:d=1,scale=1:1', '-c:v', 'ffv1']);
    const wide = readFileSync(
      draw(inMedia('odd/wide.avi'), ['-f', 'lavfi', '-i', 'testsrc=s=64x16:d=1', '-c:v', 'rawvideo']),
    );
    for (const mark of ['avih', 'strf']) wide.writeUInt32LE(65_535, wide.indexOf(mark) + (mark === 'avih' ? 40 : 12));
    writeFileSync(inMedia('odd/wide.avi'), wide);
    draw(inMedia('odd/fast.mov'), [
      ...['-f', 'lavfi', '-i', 'testsrc=s=64x64:r=1000000', '-frames:v', '60', '-r', '1000000'],
      ...['-video_track_timescale', '1000000', '-c:v', 'mjpeg'],
    ]);
    draw(inMedia('odd/negative.mkv'), [
      ...['-f', 'lavfi', '-i', 'testsrc2=s=64x64:d=2', '-output_ts_offset', '-1', '-avoid_negative_ts', 'disabled'],
    ]);
    draw(inMedia('odd/100 tracks.mkv'), [
      ...['-f', 'lavfi', '-i', 'testsrc2=s=64x64:d=1', '-f', 'lavfi', '-i', 'sine=d=1', '-map', '0:v', ...tracks],
    ]);
  });

  it('never hold up the others, and each is told why', async () => {
    const batch = await takeInAll([inMedia('odd')]);
    const codes = Object.fromEntries(batch.refused.map((one) => [path.basename(one.path), one.code]));
    expect(codes).toEqual({
      'zero.mov': 'file-empty',
      'header only.mp4': expect.stringMatching(/^file-(cut-off|not-media)$/) as string,
      'no tracks.mp4': expect.stringMatching(/^file-/) as string,
      'cut.mov': 'file-cut-off',
      '1 by 1.mkv': 'file-absurd',
      'wide.avi': 'file-absurd',
      'fast.mov': 'file-absurd',
    });
    const names = (await programmes()).map(({ name }) => name);
    expect(names).toEqual(
      expect.arrayContaining([
        'good "one" ’ two\n🎬 \u202eleft.mov',
        'wrong ending.txt',
        `${'n'.repeat(251)}.mov`,
        'negative.mkv',
        '100 tracks.mkv',
      ]),
    );
    const many = (await programmes()).find(({ name }) => name === '100 tracks.mkv');
    expect(many?.audio).toHaveLength(99);
    expect((await server.call('GET', 'system')).status).toBe(200);
  });
});

describe('a file without permission', () => {
  it('is refused with what to do, and the others are taken in', async () => {
    const own = makeFolders();
    mkdirSync(own.media, { recursive: true });
    for (const folder of [own.root, own.media]) chmodSync(folder, 0o755);
    drawMaster(path.join(own.media, 'open.mov'), { seconds: 1 });
    chmodSync(drawMaster(path.join(own.media, 'closed.mov'), { seconds: 1 }), 0o000);
    // The superuser may read everything, so then the reader of files runs as nobody.
    const asNobody = process.getuid?.() === 0 ? 'setpriv --reuid=65534 --regid=65534 --clear-groups ' : '';
    const reader = path.join(own.root, 'reader');
    writeFileSync(reader, `#!/bin/sh\nexec ${asNobody}ffprobe "$@"\n`, { mode: 0o755 });
    const other = await startServer(own, { LINSTOCK_FFPROBE: reader });
    try {
      const { body: asked } = await other.call<TakeInView>('POST', 'takein', { paths: [own.media] });
      const done = await vi.waitUntil(async () => {
        const { body } = await other.call<TakeInView>('GET', `takein/${asked.id}`);
        return body.state === 'done' && body;
      }, WAITING);
      expect(done).toMatchObject({ found: 2, takenIn: 1, alreadyIn: 0 });
      expect(done.refused).toEqual([
        {
          path: path.join(own.media, 'closed.mov'),
          code: 'file-unreadable',
          message: 'This file may not be read; give the server read permission on it.',
        },
      ]);
    } finally {
      await other.end('SIGTERM');
    }
  });
});

describe('knowing a programme', () => {
  let master: ProgrammeView;
  beforeAll(async () => {
    master = await server.takeIn(inMedia('master.mov'));
  });

  it('answers its analysis in the documented shape', async () => {
    const analysis = await analysed(master.id);
    expect(analysis).toMatchObject({
      state: 'done',
      fraction: 1,
      scan: 'progressive',
      bars: { top: 0, bottom: 0, left: 0, right: 0 },
      frameRateMode: 'constant',
      black: [],
      silence: [],
      loudness: { integratedLufs: expect.any(Number) as number, rangeLu: expect.any(Number) as number },
      busyness: { stepSeconds: 0.5 },
    });
    expect(analysis.busyness?.bits).toHaveLength(6);
    const { body: strips } = await server.call<StripsView>('GET', `programmes/${master.id}/strips`);
    expect(strips.spent).toHaveLength(6);
    expect(strips.spent.reduce((sum, bytes) => sum + bytes, 0)).toBeLessThan(master.bytes);
    const picture = await fetch(`${server.address}/api/programmes/${master.id}/strips/0`);
    expect(picture.headers.get('content-type')).toBe('image/jpeg');
  });

  it('keeps everything raw', async () => {
    const { body } = await server.call<{ streams: unknown[] }>('GET', `programmes/${master.id}/raw`);
    expect(body.streams).toHaveLength(2);
  });

  it('plays by a stand-in of exact pieces', async () => {
    const answer = await fetch(`${server.address}/api/programmes/${master.id}/standin/0`);
    expect(answer.headers.get('content-type')).toBe('video/mp4');
    const file = path.join(folders.root, 'piece.mp4');
    writeFileSync(file, Buffer.from(await answer.arrayBuffer()));
    const args = [
      '-v',
      'error',
      '-count_packets',
      '-show_entries',
      'stream=codec_name,nb_read_packets,start_time',
      '-of',
      'csv=p=0',
      file,
    ];
    expect(execFileSync('ffprobe', args, { encoding: 'utf8' }).trim().split('\n')[0]).toBe('h264,0.000000,75');
    expect((await server.call('GET', `programmes/${master.id}/standin/1`)).status).toBe(404);
  });

  it('keeps portions in their order, and refuses what lies outside', async () => {
    const where = `programmes/${master.id}/portions`;
    expect((await server.call<PortionView[]>('GET', where)).body).toEqual([]);
    const put = await server.call<PortionView[]>('PUT', where, [
      { name: 'Second', inFrame: 40, outFrame: 74 },
      { inFrame: 0, outFrame: 9 },
    ]);
    expect(put.body.map(({ name, inFrame, outFrame }) => [name, inFrame, outFrame])).toEqual([
      ['Second', 40, 74],
      ['Portion 2', 0, 9],
    ]);
    const swapped = [put.body[1], put.body[0]];
    expect((await server.call('PUT', where, swapped)).body).toEqual(swapped);
    const outside = await server.call<ErrorBody>('PUT', where, [{ inFrame: 0, outFrame: 75 }]);
    expect([outside.status, outside.body.error.code, outside.body.error.field]).toEqual([
      422,
      'portion-outside',
      '[0]',
    ]);
    expect((await server.call<ErrorBody>('PUT', where, [{ inFrame: 5 }])).status).toBe(400);
    expect((await server.call<PortionView[]>('GET', where)).body).toHaveLength(2);
    expect((await server.call<PortionView[]>('PUT', where, [])).body).toEqual([]);
  });
});

describe('a master that', () => {
  const standing = async (id: string) => (await server.call<ProgrammeView>('GET', `programmes/${id}`)).body.master;
  let film: ProgrammeView;
  beforeAll(async () => {
    drawMaster(inMedia('film.mov'), { seconds: 1 });
    film = await server.takeIn(inMedia('film.mov'));
  });

  it('was only touched is the same', async () => {
    utimesSync(inMedia('film.mov'), new Date(), new Date(Date.now() - 5000));
    expect(await standing(film.id)).toBe('there');
    expect((await server.call('GET', `programmes/${film.id}/frames/3`)).status).toBe(200);
  });

  it('moved is missing, is not used, and is found again where it is pointed to', async () => {
    renameSync(inMedia('film.mov'), inMedia('rushes/film, moved.mov'));
    expect(await standing(film.id)).toBe('missing');
    expect((await server.call('GET', `programmes/${film.id}/frames/4`)).status).toBe(410);
    const other = await server.call<ErrorBody>('PATCH', `programmes/${film.id}`, {
      path: inMedia('odd/wrong ending.txt'),
    });
    expect([other.status, other.body.error.code]).toEqual([409, 'already-in']);
    const found = await server.call<ProgrammeView>('PATCH', `programmes/${film.id}`, {
      path: inMedia('rushes/film, moved.mov'),
    });
    expect(found.body).toMatchObject({ master: 'there', name: 'film, moved.mov', state: 'ready' });
    expect((await server.call('GET', `programmes/${film.id}/frames/4`)).status).toBe(200);
  });

  it('changed is never silently used, and is measured anew when asked', async () => {
    const place = inMedia('rushes/film, moved.mov');
    drawMaster(place, { seconds: 2 });
    expect(await standing(film.id)).toBe('changed');
    expect((await server.call<ErrorBody>('GET', `programmes/${film.id}/frames/5`)).body.error.code).toBe(
      'master-changed',
    );
    const refused = await server.call<ErrorBody>('PATCH', `programmes/${film.id}`, { path: place });
    expect([refused.status, refused.body.error.code]).toEqual([409, 'other-file']);
    const taken = await server.call<ProgrammeView>('PATCH', `programmes/${film.id}`, { path: place, replace: true });
    expect(taken.body).toMatchObject({ master: 'there', frameCount: 50 });
    expect((await analysed(film.id)).busyness?.bits).toHaveLength(4);
  });
});

describe('an upload', () => {
  const send = (content: Buffer, name: string, options: { stopAfter?: number; resume?: string } = {}) =>
    new Promise<{ url: string | null; outcome: string | undefined; error: string | null }>((resolve) => {
      const upload = new Upload(content, {
        endpoint: `${server.address}/api/upload`,
        ...(options.resume ? { uploadUrl: options.resume } : {}),
        chunkSize: 50_000,
        retryDelays: null,
        metadata: { filename: name },
        onChunkComplete: (_, accepted) => {
          if (options.stopAfter === undefined || accepted < options.stopAfter) return;
          void upload.abort().then(() => resolve({ url: upload.url, outcome: undefined, error: null }));
        },
        onError: (error) => resolve({ url: upload.url, outcome: undefined, error: error.message }),
        onSuccess: ({ lastResponse }) =>
          resolve({ url: upload.url, outcome: lastResponse.getHeader('Linstock-Outcome'), error: null }),
      });
      upload.start();
    });

  it('goes on after the server was killed, arrives whole, and never replaces a file', async () => {
    const content = readFileSync(inMedia('master.mov'));
    const half = await send(content, 'master.mov', { stopAfter: content.length / 2 });
    await server.end('SIGKILL');
    server = await startServer(folders);
    const url = new URL(new URL(half.url!).pathname, server.address).href;
    const { outcome, error } = await send(content, 'master.mov', { resume: url });
    expect(error).toBeNull();
    const { path: arrived, programmeId } = JSON.parse(decodeURIComponent(outcome!)) as {
      path: string;
      programmeId: string;
    };
    expect(arrived).toBe(inMedia('master 2.mov'));
    expect(readFileSync(arrived).equals(content)).toBe(true);
    expect((await server.call<ProgrammeView>('GET', `programmes/${programmeId}`)).body.frameCount).toBe(75);
  });

  it('has a safe name, and a file that is no programme is refused with the reason and does not stay', async () => {
    const { outcome } = await send(Buffer.from('Only a letter'), '../../e\nvil.mov');
    const { path: arrived, message } = JSON.parse(decodeURIComponent(outcome!)) as { path: string; message: string };
    expect(arrived).toBe(inMedia('e_vil.mov'));
    expect(message).toMatch(/not a film/);
    expect(existsSync(arrived)).toBe(false);
  });

  it('that cannot fit, or has no name, is refused before a byte is sent', async () => {
    const create = (headers: Record<string, string>) =>
      fetch(`${server.address}/api/upload`, { method: 'POST', headers: { 'tus-resumable': '1.0.0', ...headers } });
    const name = `filename ${Buffer.from('big.mov').toString('base64')}`;
    const tooBig = await create({ 'upload-length': String(2 ** 50), 'upload-metadata': name });
    expect(tooBig.status).toBe(507);
    expect(await tooBig.text()).toMatch(/bytes left/);
    expect((await create({ 'upload-length': '10' })).status).toBe(400);
  });
});

describe('a media folder that vanishes', () => {
  it('leaves its programmes missing and the server up', async () => {
    renameSync(folders.media, `${folders.media}-gone`);
    const [first] = await programmes();
    expect((await server.call<ProgrammeView>('GET', `programmes/${first!.id}`)).body.master).toBe('missing');
    const lost = await takeInAll([inMedia('rushes')]);
    expect(lost.refused).toHaveLength(1);
    renameSync(`${folders.media}-gone`, folders.media);
    expect((await server.call<ProgrammeView>('GET', `programmes/${first!.id}`)).body.master).toBe('there');
  });
});

describe('a file that is still being written', () => {
  it('is refused until it is finished', async () => {
    const growing = inMedia('growing.mov');
    drawMaster(growing, { seconds: 8, size: '640x360' });
    const timer = setInterval(() => appendFileSync(growing, Buffer.alloc(1000)), 5);
    const { body } = await server.call<ErrorBody>('POST', 'programmes', { path: growing });
    clearInterval(timer);
    expect(body.error.code).toBe('file-growing');
    expect((await server.call('POST', 'programmes', { path: growing })).status).toBe(201);
  });
});
