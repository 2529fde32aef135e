import { existsSync, mkdirSync, readdirSync, utimesSync, writeFileSync } from 'node:fs';
import { statfs } from 'node:fs/promises';
import path from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { makeFolders, startServer, type TestServer } from '../support/server.ts';

const folders = makeFolders();
const inMedia = (name: string) => path.join(folders.media, name);
let server: TestServer;

beforeAll(async () => {
  mkdirSync(folders.media, { recursive: true });
  writeFileSync(inMedia('master.mov'), 'only its name matters here');
  // An upload left a day ago, with what was noted of it, and one of this minute.
  const uploads = path.join(folders.data, 'uploads');
  mkdirSync(uploads, { recursive: true });
  for (const name of ['old', 'old.json', 'new', 'new.json']) writeFileSync(path.join(uploads, name), '{"size":9}');
  const longAgo = new Date(Date.now() - 25 * 3600 * 1000);
  for (const name of ['old', 'old.json']) utimesSync(path.join(uploads, name), longAgo, longAgo);
  server = await startServer(folders);
});
afterAll(() => server.end('SIGTERM'));

describe('uploads', () => {
  const uploads = path.join(folders.data, 'uploads');
  const create = (headers: Record<string, string>, body?: Uint8Array) =>
    fetch(`${server.address}/api/upload`, {
      method: 'POST',
      headers: { 'tus-resumable': '1.0.0', ...headers },
      ...(body ? { body } : {}),
    } as RequestInit);
  const named = (name: string, folder?: string) =>
    [`filename ${btoa(name)}`, ...(folder ? [`folder ${btoa(folder)}`] : [])].join(',');

  it('that nobody went on with for a day are gone at the start, with what was noted of them', async () => {
    await expect.poll(() => readdirSync(uploads).sort(), { timeout: 20_000 }).toEqual(['new', 'new.json']);
  });

  it('that are empty leave nothing behind', async () => {
    const before = readdirSync(folders.media).length;
    const answer = await create({ 'upload-length': '0', 'upload-metadata': named('nothing.mov') });
    expect(answer.status).toBe(422);
    expect(await answer.text()).toMatch(/empty/);
    expect(readdirSync(folders.media)).toHaveLength(before);
    expect(readdirSync(uploads)).toHaveLength(2);
  });

  it('that are refused are not left in the media folder', async () => {
    const letter = new TextEncoder().encode('Dear reader, this is no film.');
    const headers = {
      'upload-length': String(letter.length),
      'upload-metadata': named('letter.mov'),
      'content-type': 'application/offset+octet-stream',
    };
    const answer = await create(headers, letter);
    expect(answer.status).toBe(201);
    expect(decodeURIComponent(answer.headers.get('linstock-outcome') ?? '')).toMatch(/not a film/);
    expect(existsSync(inMedia('letter.mov'))).toBe(false);
    expect(readdirSync(uploads)).toHaveLength(2);
  });

  it('into a folder that is a file are refused', async () => {
    const answer = await create({ 'upload-length': '10', 'upload-metadata': named('a.mov', inMedia('master.mov')) });
    expect(answer.status).toBe(422);
    expect(await answer.text()).toMatch(/not a folder/);
  });

  it('count against the room together, whether they say how long they are or not', async () => {
    const { bavail, bsize } = await statfs(folders.data);
    const most = Math.floor((bavail * bsize - 100_000_000) * 0.6);
    const first = await create({ 'upload-length': String(most), 'upload-metadata': named('a.mov') });
    expect(first.status).toBe(201);
    expect((await create({ 'upload-length': String(most), 'upload-metadata': named('b.mov') })).status).toBe(507);
    await fetch(new URL(first.headers.get('location') ?? '', `${server.address}/api/upload`), {
      method: 'DELETE',
      headers: { 'tus-resumable': '1.0.0' },
    });
    const deferred = await create({ 'upload-defer-length': '1', 'upload-metadata': named('c.mov') });
    expect(deferred.status).toBe(201);
    const place = new URL(deferred.headers.get('location') ?? '', `${server.address}/api/upload`);
    const tooLong = await fetch(place, {
      method: 'PATCH',
      headers: {
        'tus-resumable': '1.0.0',
        'upload-offset': '0',
        'upload-length': String(2 ** 50),
        'content-type': 'application/offset+octet-stream',
      },
      body: 'x',
    });
    expect(tooLong.status).toBe(413);
  });
});
