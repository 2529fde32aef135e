import { mkdirSync, symlinkSync, writeFileSync, existsSync } from 'node:fs';
import path from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { ErrorBody, MediaListing, ProgrammeView } from '../../src/contract/views.ts';
import { drawMaster } from '../support/footage.ts';
import { makeFolders, startServer, type TestServer } from '../support/server.ts';

const folders = makeFolders();
const inMedia = (name: string) => path.join(folders.media, name);
let server: TestServer;
let programme: ProgrammeView;

const post = async (where: string, body: unknown) => {
  const { status, body: answer } = await server.call<ErrorBody>('POST', where, body);
  return { status, code: answer.error?.code, field: answer.error?.field, message: answer.error?.message };
};
const recipe = {
  video: { codec: 'h264', rate: { mode: 'quality', value: 30 }, effort: 'fast' },
  audio: { codec: 'aac', kbps: 64 },
};

beforeAll(async () => {
  mkdirSync(inMedia('inner'), { recursive: true });
  drawMaster(inMedia('master.mov'), { seconds: 2 });
  drawMaster(path.join(folders.root, 'outside.mov'), { seconds: 1 });
  symlinkSync(path.join(folders.root, 'outside.mov'), inMedia('way-out.mov'));
  symlinkSync(inMedia('master.mov'), inMedia('inner/linked.mov'));
  writeFileSync(inMedia('letter.mp4'), 'Dear reader');
  writeFileSync(inMedia('empty.mp4'), '');
  writeFileSync(inMedia('list.mp4'), `ffconcat version 1.0\nfile '${path.join(folders.root, 'outside.mov')}'\n`);
  server = await startServer(folders);
  programme = await server.takeIn(inMedia('master.mov'));
});
afterAll(() => server.end('SIGTERM'));

describe('taking in', () => {
  it.each([
    ['outside the media folders', () => path.join(folders.root, 'outside.mov'), 403, 'outside-media-folders'],
    ['by dots', () => inMedia('../outside.mov'), 403, 'outside-media-folders'],
    ['by a link that leads out', () => inMedia('way-out.mov'), 403, 'outside-media-folders'],
    ['a relative path', () => 'master.mov', 403, 'outside-media-folders'],
    ['what is not there', () => inMedia('nothing.mov'), 404, 'file-not-found'],
    ['a folder', () => inMedia('inner'), 422, 'not-a-file'],
    ['a letter', () => inMedia('letter.mp4'), 422, 'file-not-media'],
    ['an empty file', () => inMedia('empty.mp4'), 422, 'file-empty'],
    ['a script', () => inMedia('list.mp4'), 422, 'file-is-script'],
    ['twice', () => inMedia('master.mov'), 409, 'already-in'],
    ['twice, through a link', () => inMedia('inner/linked.mov'), 409, 'already-in'],
  ])('%s is refused', async (_name, file, status, code) => {
    const answer = await post('programmes', { path: file() });
    expect(answer).toMatchObject({ status, code, field: 'path' });
    expect(answer.message).toMatch(/\.$/);
  });

  it('leaves nothing behind after refusals', async () => {
    expect(await server.programmes()).toHaveLength(1);
  });

  it('browses only the media folders', async () => {
    const { body } = await server.call<MediaListing>('GET', `media?folder=${encodeURIComponent(folders.media)}`);
    expect(body.parent).toBeNull();
    const names = body.entries.map((entry) => entry.name);
    expect(names).toContain('inner');
    expect(names).not.toContain('way-out.mov');
    expect(body.entries.find((entry) => entry.name === 'master.mov')?.programmeId).toBe(programme.id);
    expect((await server.call('GET', 'media?folder=/etc')).status).toBe(403);
  });
});

describe('ordering', () => {
  it.each([
    ['an unknown key', { recipe: { ...recipe, shine: true } }, 400, 'field-wrong', 'recipe'],
    [
      'a rate of 0',
      { recipe: { ...recipe, video: { codec: 'h264', rate: { mode: 'average', kbps: 0, passes: 1 } } } },
      400,
      'field-wrong',
      'recipe.video.rate.kbps',
    ],
    [
      'a cap of 1 byte',
      { recipe: { ...recipe, video: { codec: 'h264', rate: { mode: 'size', bytes: 1 } } } },
      422,
      'nothing-left',
      'recipe.video.rate.bytes',
    ],
    ['a portion beyond the end', { recipe, portion: { inFrame: 0, outFrame: 50 } }, 422, 'portion-outside', 'portion'],
    ['a name with a line break', { recipe, name: 'a\nb.mp4' }, 422, 'name-unusable', 'name'],
    [
      'a tiny frame',
      { recipe: { ...recipe, picture: { fit: { width: 20 } } } },
      422,
      'frame-too-small',
      'recipe.picture.fit',
    ],
  ])('%s is refused at its field', async (_name, body, status, code, field) => {
    expect(await post('renditions', { programmeId: programme.id, ...body })).toMatchObject({ status, code, field });
  });

  it('an odd frame size comes out even', async () => {
    const { status, body } = await server.call<{ width: number; height: number }>('POST', 'plan', {
      programmeId: programme.id,
      recipe: { ...recipe, picture: { fit: { width: 213 } } },
    });
    expect({ status, width: body.width, height: body.height }).toEqual({ status: 200, width: 212, height: 120 });
  });

  it('of an unknown programme, and in broken JSON', async () => {
    expect(await post('renditions', { programmeId: 'nobody', recipe })).toMatchObject({
      status: 404,
      code: 'not-found',
    });
    expect(await post('renditions', '{')).toMatchObject({ status: 400, code: 'body-not-json' });
  });

  it('from a page of another site is not answered', async () => {
    const response = await fetch(`${server.address}/api/programmes`, {
      method: 'POST',
      headers: { origin: 'http://elsewhere.example' },
      body: '{}',
    });
    expect(response.status).toBe(403);
  });
});

describe('looking', () => {
  it.each([
    ['frames/0', 200],
    ['frames/49.png', 200],
    ['frames/50', 422],
    ['frames/x', 400],
    ['frames/0?width=5', 400],
    [`ordered/3?recipe=${encodeURIComponent(JSON.stringify(recipe))}`, 200],
    [`ordered/50?recipe=${encodeURIComponent(JSON.stringify(recipe))}`, 422],
    [`ordered/3?recipe=${encodeURIComponent(JSON.stringify({ ...recipe, video: null }))}`, 422],
    ['ordered/3?recipe={"video":null}', 400],
    ['ordered/3', 400],
  ])('%s answers %i', async (where, status) => {
    expect((await server.call('GET', `programmes/${programme.id}/${where}`)).status).toBe(status);
  });

  it('forgets a programme and leaves its file', async () => {
    const { body } = await server.call<ProgrammeView>('GET', `programmes/${programme.id}`);
    expect((await server.call('DELETE', `programmes/${programme.id}`)).status).toBe(204);
    expect((await server.call('GET', `programmes/${programme.id}`)).status).toBe(404);
    expect(existsSync(body.path)).toBe(true);
    programme = await server.takeIn(body.path);
  });

  it('notices a master that was changed', async () => {
    drawMaster(inMedia('changing.mov'), { seconds: 1 });
    const changing = await server.takeIn(inMedia('changing.mov'));
    drawMaster(inMedia('changing.mov'), { seconds: 2 });
    expect(await post('plan', { programmeId: changing.id, recipe })).toMatchObject({
      status: 422,
      code: 'master-changed',
    });
  });
});
