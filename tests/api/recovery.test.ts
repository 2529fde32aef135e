import { execFileSync } from 'node:child_process';
import { mkdirSync, readdirSync, renameSync, rmSync, statSync, statfsSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { afterAll, beforeAll, describe, expect, it, vi } from 'vitest';
import type {
  ErrorBody,
  ForgottenView,
  ProgrammeView,
  RenditionPage,
  RenditionView,
  TakeInView,
} from '../../src/contract/views.ts';
import { drawMaster } from '../support/footage.ts';
import { canMount } from '../support/mounting.ts';
import { enginesOn, IN_TIME, makeFolders, startServer, type TestServer } from '../support/server.ts';

const QUICK = {
  video: { codec: 'h264', rate: { mode: 'quality', value: 35 }, effort: 'fast' },
  audio: { codec: 'aac', kbps: 64, channels: 'mono' },
};
const TWO_PASSES = {
  ...QUICK,
  video: { codec: 'h264', rate: { mode: 'average', kbps: 1500, passes: 2 }, effort: 'thorough' },
};

async function order(
  server: TestServer,
  programmeId: string,
  recipe: object,
  more: object = {},
): Promise<RenditionView> {
  const { status, body } = await server.call<RenditionView>('POST', 'renditions', { programmeId, recipe, ...more });
  if (status !== 201) throw new Error(JSON.stringify(body));
  return body;
}

describe('forgetting', () => {
  const folders = makeFolders();
  const inMedia = (name: string) => path.join(folders.media, name);
  let server: TestServer;
  let programme: ProgrammeView;
  let rendition: RenditionView;
  const names = async () => (await server.programmes()).map(({ name }) => name);
  const list = async () => (await server.call<RenditionPage>('GET', 'renditions')).body.rows.map(({ id }) => id);

  beforeAll(async () => {
    mkdirSync(folders.media, { recursive: true });
    drawMaster(inMedia('film.mov'), { seconds: 1 });
    server = await startServer(folders);
    programme = await server.takeIn(inMedia('film.mov'));
    await server.call('PUT', `programmes/${programme.id}/portions`, [{ inFrame: 2, outFrame: 9, name: 'The start' }]);
    const portion = { inFrame: 2, outFrame: 9, name: 'The start' };
    rendition = await server.waitFor((await order(server, programme.id, QUICK, { portion })).id);
  });
  afterAll(() => server.end('SIGTERM'));

  it('keeps the portion’s name in the rendition and its file', () => {
    expect(rendition).toMatchObject({ state: 'done', portionName: 'The start' });
    expect(rendition.name).toBe('film, The start 320x180 h264.mp4');
  });

  it('hides, and is undone with everything that was there', async () => {
    expect((await server.call('DELETE', `programmes/${programme.id}`)).status).toBe(204);
    expect([await names(), await list()]).toEqual([[], []]);
    expect((await server.call('GET', `programmes/${programme.id}`)).status).toBe(404);
    expect((await server.call('GET', `renditions/${rendition.id}`)).status).toBe(404);
    const { status, body } = await server.call<ProgrammeView>('POST', `programmes/${programme.id}/restore`);
    expect([status, body.name]).toEqual([200, 'film.mov']);
    expect([await names(), await list()]).toEqual([['film.mov'], [rendition.id]]);
  });

  it('is undone by bringing the same file in again, wherever it is now', async () => {
    await server.call('DELETE', `programmes/${programme.id}`);
    renameSync(inMedia('film.mov'), inMedia('moved.mov'));
    const again = await server.takeIn(inMedia('moved.mov'));
    expect(again).toMatchObject({ id: programme.id, name: 'moved.mov', master: 'there' });
    expect(await list()).toEqual([rendition.id]);
    const { body } = await server.call<{ name: string }[]>('GET', `programmes/${programme.id}/portions`);
    expect(body.map(({ name }) => name)).toEqual(['The start']);
  });

  it('and taking another file in at the same place leaves the forgotten one alone', async () => {
    await server.call('DELETE', `programmes/${programme.id}`);
    rmSync(inMedia('moved.mov'));
    drawMaster(inMedia('moved.mov'), { seconds: 2 });
    expect((await server.takeIn(inMedia('moved.mov'))).id).not.toBe(programme.id);
    const { status, body } = await server.call<ErrorBody>('POST', `programmes/${programme.id}/restore`);
    expect([status, body.error.code]).toEqual([409, 'already-in']);
  });

  it('for good is an act of its own, on what was named, and says beforehand what goes', async () => {
    const { body: forgotten } = await server.call<ForgottenView[]>('GET', 'forgotten');
    expect(forgotten).toMatchObject([{ id: programme.id, name: 'moved.mov', renditions: 1, portions: 1 }]);
    expect((await server.call('DELETE', 'forgotten', { ids: [] })).status).toBe(400);
    const shown = (await server.programmes())[0]?.id;
    expect((await server.call('DELETE', 'forgotten', { ids: [shown, programme.id] })).body).toEqual({ removed: 1 });
    expect(await names()).toEqual(['moved.mov']);
    expect((await server.call('GET', 'forgotten')).body).toEqual([]);
    expect((await server.call('POST', `programmes/${programme.id}/restore`)).status).toBe(404);
    expect(statSync(rendition.path).size).toBe(rendition.bytes);
  });

  it('of a report of taking in stays so', async () => {
    const { body } = await server.call<TakeInView>('POST', 'takein', { paths: [inMedia('moved.mov')] });
    expect((await server.call<TakeInView[]>('GET', 'takein')).body.map(({ id }) => id)).toContain(body.id);
    expect((await server.call('PATCH', `takein/${body.id}`, { dismissed: true })).status).toBe(204);
    expect((await server.call<TakeInView[]>('GET', 'takein')).body.map(({ id }) => id)).not.toContain(body.id);
  });
});

describe('work that is cut off', () => {
  /** A server with a rendition under way that takes long enough to be cut off in either pass. */
  const begin = async () => {
    const folders = makeFolders();
    mkdirSync(folders.media, { recursive: true });
    drawMaster(path.join(folders.media, 'master.mov'), { seconds: 6, size: '480x270', grain: 15 });
    const server = await startServer(folders);
    const { id: programmeId } = await server.takeIn(path.join(folders.media, 'master.mov'));
    const { id } = await order(server, programmeId, TWO_PASSES);
    return { folders, server, id };
  };

  it('goes on with its finished first pass', async () => {
    const { folders, server: first, id } = await begin();
    let server = first;
    await server.waitFor(id, (one) => one.stage === 'encode');
    await server.end('SIGKILL');
    const work = path.join(folders.data, 'work', id);
    const statistics = readdirSync(work).filter((name) => name.startsWith('passes.log'));
    expect(statistics.length).toBeGreaterThan(0);
    const made = statistics.map((name) => statSync(path.join(work, name)).mtimeMs);
    server = await startServer(folders);
    await server.waitFor(id, (one) => one.stage === 'encode');
    expect(statistics.map((name) => statSync(path.join(work, name)).mtimeMs)).toEqual(made);
    expect((await server.waitFor(id)).state).toBe('done');
    await vi.waitUntil(() => readdirSync(path.join(folders.data, 'work')).length === 0, IN_TIME);
    await vi.waitUntil(() => !readdirSync(folders.output).some((name) => name.endsWith('.partial')), IN_TIME);
    await server.end('SIGTERM');
  });

  it('from outside is tried once more, and is not called a damaged master', async () => {
    const { folders, server, id } = await begin();
    const killed: number[] = [];
    while (killed.length < 2) {
      await server.waitFor(id, (one) => one.stage === 'encode');
      const encoder = enginesOn(folders.output).find((one) => !killed.includes(one));
      if (encoder === undefined) continue;
      process.kill(encoder, 'SIGKILL');
      killed.push(encoder);
    }
    const ended = await server.waitFor(id);
    expect(ended).toMatchObject({ state: 'failed', problem: { code: 'engine-killed' } });
    expect(ended.problem?.message).not.toMatch(/damaged/);
    await server.end('SIGTERM');
  });

  it('by taking the output folder away is told as that', async () => {
    const { folders, server, id } = await begin();
    await server.waitFor(id, (one) => one.stage === 'analysis');
    rmSync(folders.output, { recursive: true });
    const ended = await server.waitFor(id);
    expect(ended).toMatchObject({ state: 'failed', problem: { code: 'destination-gone' } });
    expect(ended.problem?.message).toMatch(/output folder/);
    await server.end('SIGTERM');
  });
});

describe.runIf(canMount)('a data disk that is full', () => {
  it('is told as such by every route that writes, and recovers', async () => {
    const folders = makeFolders();
    for (const folder of [folders.media, folders.data]) mkdirSync(folder, { recursive: true });
    drawMaster(path.join(folders.media, 'a.mov'), { seconds: 1 });
    drawMaster(path.join(folders.media, 'b.mov'), { seconds: 2 });
    execFileSync('mount', ['-t', 'tmpfs', '-o', 'size=400m', 'tmpfs', folders.data]);
    const server = await startServer(folders);
    try {
      const { id } = await server.takeIn(path.join(folders.media, 'a.mov'));
      await vi.waitUntil(
        async () => (await server.call<{ state: string }>('GET', `programmes/${id}/analysis`)).body.state === 'done',
        { timeout: 30_000, interval: 100 },
      );
      const filler = path.join(folders.data, 'filler');
      const { bavail, bsize } = statfsSync(folders.data);
      writeFileSync(filler, Buffer.alloc(bavail * bsize));
      const portions = Array.from({ length: 200 }, (_, index) => ({
        inFrame: 0,
        outFrame: 3,
        name: `${index}`.repeat(30),
      }));
      // Pages that are there already take a few rows more.
      let told: ErrorBody['error'] | undefined;
      for (let tries = 0; tries < 50 && !told; tries += 1) {
        told = (await server.call<ErrorBody>('PUT', `programmes/${id}/portions`, portions)).body.error;
      }
      expect(told?.code).toBe('disk-full');
      const ordered = await server.call<ErrorBody>('POST', 'renditions', { programmeId: id, recipe: QUICK });
      expect(ordered).toMatchObject({ status: 507, body: { error: { code: 'destination-full' } } });
      expect((await fetch(`${server.address}/api/programmes/${id}/frames/3`)).status).toBe(200);
      rmSync(filler);
      expect((await server.takeIn(path.join(folders.media, 'b.mov'))).name).toBe('b.mov');
      expect((await server.waitFor((await order(server, id, QUICK)).id)).state).toBe('done');
    } finally {
      await server.end('SIGTERM');
      execFileSync('umount', [folders.data]);
    }
  });
});
