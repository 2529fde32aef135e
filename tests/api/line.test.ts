import path from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { BatchView } from '../../src/contract/batch.ts';
import type { QueueView } from '../../src/contract/queue.ts';
import type { ErrorBody, ProgrammeView, RenditionView } from '../../src/contract/views.ts';
import { drawFilms, PATIENT, QUICK } from '../support/quickOrder.ts';
import { enginesOn, isFrozen, makeFolders, startServer, type TestServer } from '../support/server.ts';

const folders = makeFolders();
let server: TestServer;
let film: ProgrammeView;
let short: ProgrammeView;

beforeAll(async () => {
  const films = drawFilms(folders.media);
  server = await startServer(folders);
  film = await server.takeIn(films.film);
  short = await server.takeIn(films.short);
});
afterAll(() => server.end('SIGTERM'));

const call = <Answer>(method: string, url: string, body?: unknown) => server.call<Answer>(method, url, body);

describe('the line', () => {
  const order = async () =>
    (await call<RenditionView>('POST', 'renditions', { programmeId: short.id, recipe: QUICK })).body;
  const queue = async () => (await call<QueueView>('GET', 'queue')).body;

  it('is put in another order, and what someone orders by itself comes before a batch', async () => {
    await call('PATCH', 'queue', { paused: true });
    const { id } = (await call<{ id: string }>('POST', 'batches', { programmeIds: [short.id], recipes: [QUICK] })).body;
    await expect.poll(async () => (await queue()).rows.length, PATIENT).toBe(1);
    const night = (await queue()).rows[0]!.id;
    const [first, second] = [await order(), await order()];
    const ids = async () => (await queue()).rows.map((one) => one.id);
    expect(await ids()).toEqual([first.id, second.id, night]);
    const part = (await call<QueueView>('GET', 'queue?limit=1')).body;
    expect(part.rows.map((one) => one.id)).toEqual([first.id]);
    expect(part.counts).toEqual({ queued: 3 });
    expect((await call<ErrorBody>('GET', 'queue?limit=0')).body.error.field).toBe('limit');
    await call('PATCH', `renditions/${night}`, { position: 0 });
    expect(await ids()).toEqual([night, first.id, second.id]);
    await call('PATCH', `renditions/${second.id}`, { position: 1 });
    expect(await ids()).toEqual([night, second.id, first.id]);
    await call('PATCH', `renditions/${night}`, { position: 2 });
    expect(await ids()).toEqual([second.id, first.id, night]);
    expect(await queue()).toMatchObject({ paused: true, open: false, atOnce: 1, hours: null });
    for (const one of await ids()) await call('DELETE', `renditions/${one}`);
    await call('PATCH', 'queue', { paused: false });
    expect((await call<BatchView>('GET', `batches/${id}`)).body).toMatchObject({ stopped: 1, state: 'done' });
  });

  it('loses a batch that is stopped as a whole, and gets it back', async () => {
    await call('PATCH', 'queue', { paused: true });
    const single = (await call<RenditionView>('POST', 'renditions', { programmeId: short.id, recipe: QUICK })).body;
    const recipes = [QUICK, 'stock-web-480', 'stock-web-720'];
    const { id } = (await call<{ id: string }>('POST', 'batches', { programmeIds: [short.id], recipes })).body;
    const batch = async () => (await call<BatchView>('GET', `batches/${id}`)).body;
    // Some of it may not be ordered yet.
    const { status, body } = await call<BatchView>('DELETE', `batches/${id}`);
    expect([status, body.waiting, body.stopped + body.leftOut, body.again]).toEqual([200, 0, 3, 3]);
    expect(body.rows.filter(({ state }) => state === 'left-out').every(({ reason }) => reason)).toBe(true);
    const line = async () => (await call<QueueView>('GET', 'queue')).body.rows.map((one) => one.id);
    expect(await line()).toEqual([single.id]);
    await call('POST', `batches/${id}/again`);
    await expect.poll(async () => (await batch()).rows.every(({ state }) => state === 'queued'), PATIENT).toBe(true);
    const own = (await batch()).rows.map(({ renditionId }) => renditionId!);
    expect(await line()).toEqual([single.id, ...own]);
    await call('PATCH', `batches/${id}`, { position: 0 });
    expect(await line()).toEqual([...own, single.id]);
    // Once all is ordered, all is stopped.
    expect((await call<BatchView>('DELETE', `batches/${id}`)).body).toMatchObject({
      stopped: 3,
      leftOut: 0,
      waiting: 0,
    });
    await call('DELETE', `renditions/${single.id}`);
    expect(await line()).toEqual([]);
    expect((await call<ErrorBody>('PATCH', `batches/${id}`, { position: 0 })).body.error.code).toBe('not-found');
    expect((await call<ErrorBody>('DELETE', 'batches/nowhere')).status).toBe(404);
    await call('PATCH', 'queue', { paused: false });
  });

  it('doubles what waits, and puts back what was taken out', async () => {
    await call('PATCH', 'queue', { paused: true });
    const first = await order();
    const double = await call<RenditionView>('POST', `renditions/${first.id}/again`);
    expect(double.body).toMatchObject({ state: 'queued', sentence: first.sentence });
    const ids = async () => (await queue()).rows.map(({ id }) => id);
    expect(await ids()).toEqual([first.id, double.body.id]);
    await call('DELETE', `renditions/${first.id}`);
    const back = (await call<RenditionView>('POST', `renditions/${first.id}/again`)).body;
    await call('PATCH', `renditions/${back.id}`, { position: 0 });
    expect(await ids()).toEqual([back.id, double.body.id]);
    for (const one of await ids()) await call('DELETE', `renditions/${one}`);
    await call('PATCH', 'queue', { paused: false });
  });

  it('waits for an idle machine where that is wanted', async () => {
    await call('PATCH', 'queue', { whenIdle: true });
    // A machine is in use until it was seen to be left alone.
    expect(await queue()).toMatchObject({ whenIdle: true, open: false });
    const waiting = await order();
    expect((await call<RenditionView>('GET', `renditions/${waiting.id}`)).body.state).toBe('queued');
    await call('PATCH', 'queue', { whenIdle: false });
    expect((await server.waitFor(waiting.id)).state).toBe('done');
  });

  it('puts renditions where the folder of their master wants them', async () => {
    const output = path.join(folders.root, 'elsewhere');
    const own = { folder: folders.media, recipeId: 'stock-web-720', output };
    expect((await call('PUT', 'defaults', { recipeId: null, folders: [own] })).status).toBe(200);
    const made = await server.waitFor((await order()).id);
    expect(path.dirname(made.path)).toBe(output);
    const wrong = await call<ErrorBody>('PUT', 'defaults', { folders: [{ ...own, folder: '/nowhere' }] });
    expect([wrong.status, wrong.body.error.code]).toEqual([422, 'folder-unusable']);
    await call('PUT', 'defaults', { recipeId: null });
  });

  it('keeps to its hours', async () => {
    const minute = (offset: number) => new Date(Date.now() + offset * 60_000).toTimeString().slice(0, 5);
    await call('PATCH', 'queue', { hours: { from: minute(60), to: minute(120) } });
    expect((await queue()).open).toBe(false);
    const waiting = await order();
    await call('PATCH', 'queue', { hours: { from: minute(-60), to: minute(60) } });
    expect((await queue()).open).toBe(true);
    await server.waitFor(waiting.id);
    const wrong = await call<ErrorBody>('PATCH', 'queue', { hours: { from: '25:00', to: '7' } });
    expect(wrong.status).toBe(400);
    await call('PATCH', 'queue', { hours: null });
  });

  it('freezes an encode where it is, over the death of the server too, and lets it go on', async () => {
    const slow = {
      ...QUICK,
      video: { codec: 'hevc', effort: 'fast', rate: { mode: 'quality', value: 20 } },
      picture: { fit: { height: 270 } },
    };
    const asked = await call<{ id: string }>('POST', 'batches', { programmeIds: [film.id], recipes: [slow] });
    const row = async () => (await call<BatchView>('GET', `batches/${asked.body.id}`)).body.rows[0]!;
    await expect.poll(async () => (await row()).renditionId, PATIENT).not.toBeNull();
    const made = { id: (await row()).renditionId! };
    const read = async () => (await call<RenditionView>('GET', `renditions/${made.id}`)).body;
    // Its picture is being encoded by then: between the sound and the picture there is nothing to freeze.
    await expect.poll(async () => (await read()).framesPerSecond, { timeout: 60_000 }).toBeGreaterThan(0);
    await call('PATCH', `renditions/${made.id}`, { paused: true });
    await expect.poll(() => enginesOn(folders.root).map(isFrozen), PATIENT).toEqual([true]);
    expect(await read()).toMatchObject({ paused: true, state: 'running' });
    expect(await row()).toMatchObject({ paused: true, state: 'running' });
    await server.end('SIGKILL');
    await expect.poll(() => enginesOn(folders.root), PATIENT).toEqual([]);
    server = await startServer(folders);
    // What was asked for later is made, and what is frozen is not begun before it.
    const other = (await call<RenditionView>('POST', 'renditions', { programmeId: short.id, recipe: QUICK })).body;
    await server.waitFor(other.id);
    expect(await read()).toMatchObject({ paused: true, state: 'queued' });
    await call('PATCH', `renditions/${made.id}`, { paused: false });
    await server.waitFor(made.id);
    // The server ends and begins again in it, and everything after it stands behind this encode.
  }, 300_000);

  it('makes a rendition again as it was ordered', async () => {
    const first = await order();
    await server.waitFor(first.id);
    const again = await call<RenditionView>('POST', `renditions/${first.id}/again`);
    expect(again.status).toBe(201);
    const made = await server.waitFor(again.body.id);
    expect(made.path).not.toBe(first.path);
    expect(made.recipeName).toBe('Quick');
  });
});
