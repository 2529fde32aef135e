import { linkSync, mkdirSync, readFileSync, renameSync, statSync, symlinkSync, writeFileSync } from 'node:fs';
import { connect } from 'node:net';
import path from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { ErrorBody, TakeInView } from '../../src/contract/views.ts';
import { drawMaster, draw } from '../support/footage.ts';
import { enginesIn, makeFolders, startServer, type TestServer } from '../support/server.ts';

const folders = makeFolders();
const inMedia = (name: string) => path.join(folders.media, name);
const SECRET = 'not for anybody’s eyes';
let server: TestServer;
let port: number;

beforeAll(async () => {
  mkdirSync(inMedia('inner'), { recursive: true });
  drawMaster(inMedia('master.mov'), { seconds: 2 });
  writeFileSync(path.join(folders.root, 'secret.txt'), SECRET);
  server = await startServer(folders, { LINSTOCK_HOSTS: 'editing.example' });
  port = Number(new URL(server.address).port);
});
afterAll(() => server.end('SIGTERM'));

interface Raw {
  readonly status: number;
  readonly head: string;
  readonly body: string;
}

/** A request as bytes: what no well-behaved client would send. */
function raw(request: string): Promise<Raw> {
  return new Promise((resolve, reject) => {
    const socket = connect(port, '127.0.0.1', () => socket.write(request));
    let answer = '';
    socket.on('data', (chunk) => (answer += chunk.toString('latin1')));
    socket.on('end', () => {
      const [head = '', ...rest] = answer.split('\r\n\r\n');
      resolve({ status: Number(head.split(' ')[1]), head: head.toLowerCase(), body: rest.join('\r\n\r\n') });
    });
    socket.on('error', reject);
  });
}

const get = (where: string, headers: Record<string, string>) =>
  raw(
    `GET ${where} HTTP/1.1\r\n${Object.entries({ connection: 'close', ...headers })
      .map(([name, value]) => `${name}: ${value}\r\n`)
      .join('')}\r\n`,
  );

const post = async (where: string, body: unknown, headers: Record<string, string> = {}) => {
  const text = typeof body === 'string' ? body : JSON.stringify(body);
  const answer = await fetch(`${server.address}/api/${where}`, { method: 'POST', body: text, headers });
  const said = await answer.text();
  return { status: answer.status, said, error: (JSON.parse(said) as ErrorBody).error };
};

describe('a request sent to another name', () => {
  const places = ['/', '/api/programmes', '/api/events', '/api/programmes/x/file', '/api/system', '/_next/static/x.js'];
  it.each(places)('is not answered: %s', async (place) => {
    for (const host of ['evil.example', `evil.example:${port}`, '127.0.0.1.evil.example', '']) {
      const answer = await get(place, { host });
      expect([400, 403]).toContain(answer.status);
      expect(answer.body).not.toContain('master.mov');
    }
  });

  it('is answered by the names that are this machine’s or were configured', async () => {
    for (const host of [
      `127.0.0.1:${port}`,
      'localhost',
      '127.1.2.3',
      `[::1]:${port}`,
      'LOCALHOST:1',
      'editing.example',
    ]) {
      expect((await get('/api/system', { host })).status).toBe(200);
    }
  });
});

describe('a page of another site', () => {
  const host = () => `127.0.0.1:${port}`;
  it('reads nothing and changes nothing, and may link to a page', async () => {
    const statusOf = async (place: string, headers: Record<string, string>) =>
      (await get(place, { host: host(), ...headers })).status;
    expect(await statusOf('/api/programmes', { 'sec-fetch-site': 'cross-site', 'sec-fetch-mode': 'no-cors' })).toBe(
      403,
    );
    expect(await statusOf('/api/programmes', { 'sec-fetch-site': 'same-site', 'sec-fetch-mode': 'cors' })).toBe(403);
    expect(await statusOf('/api/events', { origin: 'http://evil.example' })).toBe(403);
    expect(await statusOf('/api/events', { origin: 'null' })).toBe(403);
    const visit = { 'sec-fetch-site': 'cross-site', 'sec-fetch-mode': 'navigate', 'sec-fetch-dest': 'document' };
    expect(await statusOf('/', visit)).toBe(200);
    expect(await statusOf('/api/system', visit)).toBe(403);
    expect(await statusOf('/', { ...visit, 'sec-fetch-dest': 'iframe' })).toBe(403);
    expect(await statusOf('/api/system', { 'sec-fetch-site': 'same-origin', origin: `http://${host()}` })).toBe(200);
  });

  it('finds headers on every answer that keep it from framing, guessing and embedding', async () => {
    for (const place of [
      '/',
      '/api/system',
      '/api/nothing',
      '/nowhere',
      '/api/programmes/x/file',
      '/_next/static/x.js',
    ]) {
      const { head } = await get(place, { host: host() });
      expect(head).toContain('x-content-type-options: nosniff');
      expect(head).toContain("frame-ancestors 'none'");
      expect(head).toContain('cross-origin-resource-policy: same-origin');
      expect(head).toMatch(/script-src 'self' 'nonce-[a-z0-9+/=]+';/);
      expect(head.match(/content-security-policy:/g)).toHaveLength(1);
    }
  });

  it('finds every script of a page marked with the nonce of that answer', async () => {
    const { head, body } = await get('/', { host: host() });
    const nonce = /'nonce-([^']+)'/i.exec(head)?.[1];
    const scripts = Array.from(body.matchAll(/<script(?![^>]*\bsrc=)[^>]*>/g), ([tag]) => tag);
    expect(scripts.length).toBeGreaterThan(0);
    for (const tag of scripts) expect(tag.toLowerCase()).toContain(`nonce="${nonce}"`);
  });

  it('finds the framework’s unused endpoints closed', async () => {
    for (const place of ['/_next/image?url=%2Ficon.svg&w=64&q=75', '/_next/data/x/index.json']) {
      expect((await get(place, { host: host() })).status).toBe(404);
    }
  });
});

describe('a name with percent signs', () => {
  it.each(['100%.mov', 'a%03d.mp4', 'x%2fy.mov', '%2e%2e%2fsecret.mov', 'plain [1].mov'])(
    '%s is served as it is',
    async (name) => {
      linkSync(inMedia('master.mov'), inMedia(name));
      const { id } = await server.takeIn(inMedia(name));
      const answer = await fetch(`${server.address}/api/programmes/${id}/file`);
      expect(answer.status).toBe(200);
      expect(Buffer.from(await answer.arrayBuffer()).equals(readFileSync(inMedia('master.mov')))).toBe(true);
      const part = await fetch(`${server.address}/api/programmes/${id}/file`, { headers: { range: 'bytes=8-11' } });
      expect(part.status).toBe(206);
      expect((await part.arrayBuffer()).byteLength).toBe(4);
      expect((await fetch(`${server.address}/api/programmes/${id}/frames/3`)).status).toBe(200);
    },
  );

  it('does not lead out of the media folder', async () => {
    symlinkSync(folders.root, inMedia('out'));
    linkSync(inMedia('master.mov'), inMedia('out%2fsecret.txt'));
    const { id } = await server.takeIn(inMedia('out%2fsecret.txt'));
    const answer = await fetch(`${server.address}/api/programmes/${id}/file`);
    expect(await answer.text()).not.toContain(SECRET);
  });
});

describe('a file replaced after it was taken in', () => {
  const secret = path.join(folders.root, 'secret.mov');

  it('by a link, is neither served nor shown nor encoded', async () => {
    drawMaster(inMedia('swapped.mov'), { seconds: 1 });
    const { id } = await server.takeIn(inMedia('swapped.mov'));
    renameSync(inMedia('swapped.mov'), secret);
    symlinkSync(secret, inMedia('swapped.mov'));
    // The link leads to the very bytes and the very time that were looked at: only that it is a link tells.
    for (const place of ['file', 'frames/0', 'standin/0']) {
      const answer = await fetch(`${server.address}/api/programmes/${id}/${place}`);
      expect(answer.status).toBe(422);
      expect(((await answer.json()) as ErrorBody).error.code).toBe('master-changed');
    }
    const order = { programmeId: id, recipe: { video: null, audio: { codec: 'aac' } } };
    expect((await post('renditions', order)).error.code).toBe('master-changed');
  });

  it('by a folder that is a link now, is not used either', async () => {
    mkdirSync(inMedia('moved'));
    linkSync(inMedia('master.mov'), inMedia('moved/film.mov'));
    const { id } = await server.takeIn(inMedia('moved/film.mov'));
    renameSync(inMedia('moved'), path.join(folders.root, 'moved'));
    symlinkSync(path.join(folders.root, 'moved'), inMedia('moved'));
    expect((await fetch(`${server.address}/api/programmes/${id}/file`)).status).toBe(422);
  });
});

describe('a body that is too much', () => {
  it('is refused before it is read, by its length', async () => {
    const answer = await raw(
      `POST /api/takein HTTP/1.1\r\nhost: 127.0.0.1:${port}\r\ncontent-length: 900000000\r\nconnection: close\r\n\r\n{`,
    );
    expect(answer.status).toBe(413);
    expect(answer.body).toContain('body-too-large');
  });

  it('is refused while it comes, where it does not say how long it is', async () => {
    const pieces = new ReadableStream({
      pull: (controller) => controller.enqueue(new TextEncoder().encode(`"${'x'.repeat(65_000)}",`)),
    });
    const init = { method: 'POST', body: pieces, duplex: 'half' } as RequestInit;
    const status = await fetch(`${server.address}/api/plan`, init).then(
      (answer) => answer.status,
      () => 'cut off',
    );
    expect([413, 'cut off']).toContain(status);
  });

  it('is refused by the length of its list', async () => {
    const paths = Array.from({ length: 20_000 }, (_, index) => `/m/${index}`);
    expect(await post('takein', { paths })).toMatchObject({ status: 400, error: { code: 'field-wrong' } });
  });

  it('draws a short answer, which counts what it does not list', async () => {
    const { id } = await server.takeIn(inMedia('inner/../master.mov')).catch(async () => {
      const body = await server.programmes();
      return body[0]!;
    });
    const bad = Array.from({ length: 900 }, () => ({ inFrame: -1, outFrame: 'x' }));
    const answer = await fetch(`${server.address}/api/programmes/${id}/portions`, {
      method: 'PUT',
      body: JSON.stringify(bad),
    });
    const text = await answer.text();
    expect(answer.status).toBe(400);
    expect(text.length).toBeLessThan(4000);
    const { error } = JSON.parse(text) as ErrorBody;
    expect(error.all).toHaveLength(10);
    expect(error.message).toMatch(/more faults than the 10 listed/);
  });

  it('nested thousands deep is refused with a sentence', async () => {
    const deep = `${'['.repeat(50_000)}${']'.repeat(50_000)}`;
    expect(await post('plan', deep)).toMatchObject({
      status: 400,
      error: { message: expect.stringMatching(/deep/) as string },
    });
  });
});

describe('text that is none', () => {
  const BAD = ['a\0b', 'half \ud800 of it', '\udc00'];
  it('is refused with a sentence wherever it comes', async () => {
    for (const text of BAD) {
      const recipe = { name: text, video: null, audio: { codec: 'aac' } };
      for (const [where, body] of [
        ['programmes', { path: `/m/${text}` }],
        ['takein', { paths: [text] }],
        ['plan', { programmeId: text, recipe }],
        ['renditions', { programmeId: 'x', recipe, name: text }],
      ] as const) {
        const answer = await post(where, body);
        expect(answer.status).toBe(400);
        expect(answer.error.message).toMatch(/\.$/);
      }
    }
  });

  it('in an address is refused too', async () => {
    for (const place of [
      'programmes/%00',
      'renditions/a%00b',
      'programmes/%00/file',
      'media?folder=/m%00',
      'renditions?programmeId=%00',
    ]) {
      const answer = await fetch(`${server.address}/api/${place}`);
      expect(answer.status).toBe(400);
      expect(((await answer.json()) as ErrorBody).error.message).toMatch(/\.$/);
    }
    for (const place of ['/api/programmes/%ff', '/api/programmes/%', '/%c0%af']) {
      expect((await get(place, { host: 'localhost' })).status).toBe(400);
    }
  });

  it('as a method is refused with a sentence', async () => {
    for (const method of ['PURGE', 'TRACE', 'PROPFIND', 'LINK']) {
      const answer = await raw(`${method} /api/programmes HTTP/1.1\r\nhost: localhost\r\nconnection: close\r\n\r\n`);
      expect(answer.status).toBe(405);
      expect(answer.body).toContain('method-unknown');
    }
    const answer = await fetch(`${server.address}/api/system`, { method: 'DELETE' });
    expect(answer.status).toBe(405);
    expect(((await answer.json()) as ErrorBody).error.message).toMatch(/does not take DELETE/);
    expect((await fetch(server.address, { method: 'POST' })).status).toBe(405);
  });

  it('as a file name is told, and the others come in', async () => {
    mkdirSync(inMedia('odd'));
    linkSync(inMedia('master.mov'), inMedia('odd/good.mov'));
    writeFileSync(
      Buffer.concat([Buffer.from(`${inMedia('odd')}/bad-`), Buffer.from([0xff, 0xfe]), Buffer.from('.mov')]),
      'x',
    );
    const { body } = await server.call<TakeInView>('POST', 'takein', { paths: [inMedia('odd')] });
    let takeIn = body;
    while (takeIn.state !== 'done') takeIn = (await server.call<TakeInView>('GET', `takein/${body.id}`)).body;
    expect(takeIn).toMatchObject({ found: 2, takenIn: 1, refused: [{ code: 'name-unreadable' }] });
  });
});

describe('texts inside a file', () => {
  it('are cut to a sane length', async () => {
    const title = 'Long '.repeat(4000);
    drawMaster(inMedia('titled.mov'), { seconds: 1, extra: ['-metadata', `title=${title}`] });
    const programme = await server.takeIn(inMedia('titled.mov'));
    expect(programme.metadata['title']?.length).toBe(501);
    expect(programme.metadata['title']).toMatch(/^Long Long/);
    const { body } = await server.call<object>('GET', `programmes/${programme.id}/raw`);
    expect(JSON.stringify(body).length).toBeLessThan(10_000);
  });
});

describe('a measurement', () => {
  it('is not begun by a GET, and only up to the source’s frame size', async () => {
    const list = await server.programmes();
    const id = list.find(({ name }) => name === 'titled.mov')?.id;
    const where = `programmes/${id}/sounding`;
    const asked = await server.call<{ state: string }>('GET', `${where}?codec=h264&width=320&height=180`);
    expect(asked).toMatchObject({ status: 202, body: { state: 'not-measured' } });
    const large = await server.call<ErrorBody>('GET', `${where}?codec=h264&width=8192&height=8192`);
    expect(large).toMatchObject({ status: 422, body: { error: { code: 'frame-too-large' } } });
    expect((await post(where, { codec: 'hevc', width: 8192, height: 4608 })).error.code).toBe('frame-too-large');
    for (const wrong of [
      'codec=prores',
      'codec=prores&stored=hq,420p8',
      'codec=ffv1&stored=hq,422p10',
      'codec=h264&stored=hq,422p10',
    ]) {
      const answer = await server.call<ErrorBody>('GET', `${where}?${wrong}&width=320&height=180`);
      expect(answer).toMatchObject({ status: 400, body: { error: { field: 'stored' } } });
    }
    const stored = await server.call('GET', `${where}?codec=prores&stored=hq,422p10&width=320&height=180`);
    expect(stored).toMatchObject({ status: 202, body: { state: 'not-measured' } });
    const clear = await server.call<ErrorBody>('GET', `${where}?codec=h264&alpha=true&width=320&height=180`);
    expect(clear).toMatchObject({ status: 400, body: { error: { field: 'alpha' } } });
    expect(enginesIn(path.join(folders.data, 'work', 'sounding-'))).toEqual([]);
    const begun = await server.call<{ state: string }>('POST', where, { codec: 'h264', width: 320, height: 180 });
    // Whether it is begun before the answer goes out is the machine's affair.
    expect(begun.status).toBe(202);
    expect(['waiting', 'measuring']).toContain(begun.body.state);
    for (let status = 202; status === 202;) {
      ({ status } = await server.call('GET', `${where}?codec=h264&width=320&height=180`));
      await new Promise((resolve) => setTimeout(resolve, 50));
    }
    const outside = await post(where, {
      codec: 'h264',
      width: 320,
      height: 180,
      portion: { inFrame: 3, outFrame: 99 },
    });
    expect(outside.error.code).toBe('portion-outside');
  });
});

describe('a typed output name', () => {
  it('ends as its container does', async () => {
    const list = await server.programmes();
    const programmeId = list.find(({ name }) => name === 'titled.mov')?.id;
    const recipe = { video: { codec: 'h264', rate: { mode: 'quality', value: 40 }, effort: 'fast' }, audio: null };
    for (const [name, made] of [
      ['film.exe', 'film.exe.mp4'],
      ['cut v1.2', 'cut v1.2.mp4'],
      ['fine.MP4', 'fine.MP4'],
    ]) {
      const { body } = await server.call<{ id: string; name: string }>('POST', 'renditions', {
        programmeId,
        recipe,
        name,
      });
      expect(body.name).toBe(made);
      expect((await server.waitFor(body.id)).state).toBe('done');
    }
  });
});

describe('a file that says it has a picture', () => {
  it('and has none is refused as damaged, not taken for sound', async () => {
    draw(inMedia('whole.mkv'), [
      ...['-f', 'lavfi', '-i', 'testsrc2=s=320x180:r=25:d=1', '-f', 'lavfi', '-i', 'sine=d=4'],
      ...['-c:v', 'mpeg4', '-c:a', 'pcm_s16le'],
    ]);
    draw(inMedia('hollow.mkv'), ['-i', inMedia('whole.mkv'), '-map', '0', '-c', 'copy', '-bsf:v', 'noise=drop=1']);
    expect(statSync(inMedia('hollow.mkv')).size).toBeGreaterThan(0);
    const answer = await post('programmes', { path: inMedia('hollow.mkv') });
    expect(answer.error).toMatchObject({ code: 'file-damaged', field: 'path' });
  });
});
