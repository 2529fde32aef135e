import { mkdirSync, rmSync, truncateSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { AnalysisView, CaptionView, ErrorBody, RenditionView } from '../../src/contract/views.ts';
import { draw, makeFolder } from '../support/footage.ts';
import { makeFolders, startServer, type TestServer } from '../support/server.ts';

const folders = makeFolders();
const inMedia = (name: string) => path.join(folders.media, name);
let server: TestServer;
let programmeId: string;

const srt = (cues: readonly (readonly [from: string, to: string, text: string])[]) =>
  cues.map(([from, to, text], at) => `${at + 1}\n00:00:0${from} --> 00:00:0${to}\n${text}\n`).join('\n');

beforeAll(async () => {
  mkdirSync(folders.media, { recursive: true });
  const scratch = makeFolder();
  const german = path.join(scratch, 'de.srt');
  writeFileSync(
    german,
    srt([
      ['0,000', '1,000', 'Guten Tag'],
      ['1,500', '3,000', 'und <i>willkommen</i>'],
      ['3,500', '3,900', 'Ende'],
    ]),
  );
  draw(inMedia('talk.mkv'), [
    ...['-f', 'lavfi', '-i', 'testsrc2=s=160x90:r=25:d=4', '-i', german, '-map', '0', '-map', '1'],
    ...['-c:v', 'libx264', '-pix_fmt', 'yuv420p', '-c:s', 'subrip', '-metadata:s:s:0', 'language=ger'],
  ]);
  writeFileSync(inMedia('talk.vtt'), 'WEBVTT\n\n00:02.000 --> 00:02.500 line:10%\nÜber allem\n');
  server = await startServer(folders);
  programmeId = (await server.takeIn(inMedia('talk.mkv'))).id;
});
afterAll(() => server.end('SIGTERM'));

async function render(order: object): Promise<RenditionView> {
  const { body } = await server.call<RenditionView>('POST', 'renditions', { programmeId, ...order });
  return server.waitFor(body.id);
}

const VIDEO = { codec: 'h264', effort: 'fast', rate: { mode: 'quality', value: 30 } };

const fileOf = async (id: string, number: number) => {
  const response = await fetch(`${server.address}/api/renditions/${id}/captions/${number}`);
  return {
    type: response.headers.get('content-type'),
    name: response.headers.get('content-disposition'),
    text: await response.text(),
  };
};

describe('captions of a master', () => {
  it('go into a rendition where that is asked for, those of a file beside it as well', async () => {
    const file = { captions: 'embed' };
    const made = await render({ recipe: { video: VIDEO, audio: null, file } });
    expect(made.problem).toBeFalsy();
    const check = made.checks.find(({ name }) => name === 'Captions');
    expect(check).toMatchObject({ ok: true, found: 'ger, no language' });
    const none = await render({ recipe: { video: VIDEO, audio: null, file: { captions: 'none' } } });
    expect((await server.call<CaptionView[]>('GET', `renditions/${none.id}/captions`)).body).toEqual([]);
  });

  it('are drawn into the picture, also of a file beside it, and seen before it is encoded', async () => {
    const recipe = (captionTrack: number) => ({ video: VIDEO, audio: null, file: { captions: 'burn', captionTrack } });
    const made = await render({ recipe: recipe(1), portion: { inFrame: 40, outFrame: 79 } });
    expect(made.problem).toBeFalsy();
    expect(made.checks.every(({ ok }) => ok)).toBe(true);
    expect(made.quality?.ssim.mean).toBeGreaterThan(0.9);
    const frameOf = async (order: object, frame: number) => {
      const asked = new URLSearchParams({ recipe: JSON.stringify(order) });
      const answer = await fetch(`${server.address}/api/programmes/${programmeId}/ordered/${frame}?${asked}`);
      return Buffer.from(await answer.arrayBuffer());
    };
    const plain = { video: VIDEO, audio: null };
    // Inside from frame 0 to 24, beside from 50 to 62.
    for (const [track, frame, isDrawn] of [
      [0, 10, true],
      [0, 30, false],
      [1, 10, false],
      [1, 55, true],
    ] as const) {
      const isSame = (await frameOf(recipe(track), frame)).equals(await frameOf(plain, frame));
      expect(isSame, `track ${track}, frame ${frame}`).toBe(!isDrawn);
    }
    const { body } = await server.call<ErrorBody>('POST', 'renditions', { programmeId, recipe: recipe(2) });
    expect(body.error).toMatchObject({ code: 'track-missing', field: 'recipe.file.captionTrack' });
    const copied = { video: { codec: 'copy' }, audio: null, file: { captions: 'burn' } };
    expect(
      (await server.call<ErrorBody>('POST', 'renditions', { programmeId, recipe: copied })).body.error,
    ).toMatchObject({
      code: 'copy-cannot',
    });
  });

  it('are drawn into what is tried, and into what is compared on the desk', async () => {
    const recipe = { video: VIDEO, audio: null, file: { captions: 'burn' } };
    const grid = [{ codec: 'h264', width: 160, height: 90, qualities: [30] }];
    const { body } = await server.call<{ id: string }>('POST', 'trials', { programmeId, recipe, grid });
    const found = async () => (await server.call<{ state: string; gaps: unknown[] }>('GET', `trials/${body.id}`)).body;
    await expect.poll(async () => (await found()).state, { timeout: 60_000 }).toBe('done');
    expect((await found()).gaps).toEqual([]);
    const made = await render({ recipe });
    const of = async (what: string) => {
      const answer = await fetch(`${server.address}/api/renditions/${made.id}/${what}`);
      expect(answer.status).toBe(200);
    };
    await of('master/10');
    await of('frames/10');
  });

  it('go beside a rendition, cut to its portion, whether they lie inside it or in a file of their own', async () => {
    const made = await render({ recipe: { video: VIDEO, audio: null }, portion: { inFrame: 50, outFrame: 94 } });
    expect(made.state).toBe('done');
    const { body } = await server.call<CaptionView[]>('GET', `renditions/${made.id}/captions`);
    expect(body).toEqual([
      { label: 'German', isText: true },
      { label: 'talk.vtt', isText: true },
    ]);
    const inside = await fileOf(made.id, 0);
    expect(inside.type).toBe('text/vtt; charset=utf-8');
    expect(decodeURIComponent(inside.name ?? '')).toMatch(/talk.*\.ger\.vtt$/);
    expect(inside.text).toBe(
      'WEBVTT\n\n00:00:00.000 --> 00:00:01.000\nund <i>willkommen</i>\n\n00:00:01.500 --> 00:00:01.800\nEnde\n',
    );
    expect((await fileOf(made.id, 1)).text).toBe('WEBVTT\n\n00:00:00.000 --> 00:00:00.500 line:10%\nÜber allem\n');
    truncateSync(inMedia('talk.vtt'), 60_000_000);
    expect(await server.call<ErrorBody>('GET', `renditions/${made.id}/captions/1`)).toMatchObject({
      body: { error: { code: 'captions-unreadable' } },
    });
    rmSync(inMedia('talk.vtt'));
    expect(await server.call<ErrorBody>('GET', `renditions/${made.id}/captions/1`)).toMatchObject({
      body: { error: { code: 'file-not-there' } },
    });
    const missing = await server.call<ErrorBody>('GET', `renditions/${made.id}/captions/2`);
    expect(missing).toMatchObject({ status: 404, body: { error: { code: 'not-found' } } });
  });

  it('are told of on the page of their programme, since renditions have none inside', async () => {
    const { body } = await server.call<AnalysisView>('GET', `programmes/${programmeId}/analysis`);
    expect(body.advisories.map(({ code }) => code)).toContain('captions-left-out');
  });

  it.each([
    [
      'windows-1252',
      'old.srt',
      Buffer.from(
        srt([['0,200', '0,900', 'Grüße – “Kéfir”']])
          .replace('–', '\x96')
          .replace('“', '\x93')
          .replace('”', '\x94'),
        'latin1',
      ),
    ],
    [
      'windows-1252 WebVTT',
      'web.vtt',
      Buffer.from('WEBVTT\n\n00:00.200 --> 00:00.900\nGrüße \x96 \x93Kéfir\x94\n', 'latin1'),
    ],
    [
      'UTF-16',
      'wide.srt',
      Buffer.concat([Buffer.from([0xff, 0xfe]), Buffer.from(srt([['0,200', '0,900', 'Grüße – “Kéfir”']]), 'utf16le')]),
    ],
  ])('are read in %s too', async (_alphabet, name, bytes) => {
    const film = inMedia(`${path.parse(name).name}.mp4`);
    draw(film, ['-f', 'lavfi', '-i', 'testsrc2=s=160x90:r=25:d=1', '-c:v', 'libx264', '-pix_fmt', 'yuv420p']);
    writeFileSync(inMedia(name), bytes);
    const programme = await server.takeIn(film);
    const order = { programmeId: programme.id, recipe: { video: VIDEO, audio: null, file: { captions: 'embed' } } };
    const { body } = await server.call<RenditionView>('POST', 'renditions', order);
    const made = await server.waitFor(body.id);
    expect(made.state, JSON.stringify(made.problem)).toBe('done');
    expect((await fileOf(made.id, 0)).text).toContain('Grüße – “Kéfir”');
  });
});
