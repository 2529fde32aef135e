import { mkdirSync, readdirSync } from 'node:fs';
import path from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { AnalysisView, ProgrammeView, RenditionView, ServerEvent } from '../../src/contract/views.ts';
import { drawMaster } from '../support/footage.ts';
import { startPostgres, type TestPostgres } from '../support/postgres.ts';
import { makeFolders, startServer, type TestServer } from '../support/server.ts';

/** Two servers with data folders of their own, on one database and the same media and output folders. */
const folders = makeFolders();
let postgres: TestPostgres;
let servers: TestServer[] = [];
const programmes: ProgrammeView[] = [];

const start = (name: string) =>
  startServer({ ...folders, data: path.join(folders.root, name) }, { LINSTOCK_DATABASE_URL: postgres.url });

beforeAll(async () => {
  mkdirSync(folders.media, { recursive: true });
  postgres = await startPostgres();
  // The schema is made by the first.
  servers = [await start('one')];
  servers.push(await start('other'));
});
afterAll(async () => {
  await Promise.all(servers.map((server) => server.end('SIGTERM')));
  await postgres.stop();
});

const recipe = (value: number) => ({
  video: { codec: 'h264', effort: 'fast', rate: { mode: 'quality', value } },
  picture: { fit: { height: 90 } },
  audio: null,
});

async function order(server: TestServer, programme: ProgrammeView, value: number): Promise<string> {
  const body = { programmeId: programme.id, recipe: recipe(value) };
  const answer = await server.call<RenditionView>('POST', 'renditions', body);
  expect(answer).toMatchObject({ status: 201 });
  return answer.body.id;
}

/** Collects what a server tells its pages. */
async function listen(server: TestServer, hear: (event: ServerEvent) => void): Promise<() => void> {
  const abort = new AbortController();
  const response = await fetch(`${server.address}/api/events`, { signal: abort.signal });
  void (async () => {
    let text = '';
    for await (const chunk of response.body!.pipeThrough(new TextDecoderStream())) {
      const events = (text + chunk).split('\n\n');
      text = events.pop() ?? '';
      for (const event of events) {
        const data = /^data: (.*)$/m.exec(event)?.[1];
        if (data) hear(JSON.parse(data) as ServerEvent);
      }
    }
  })().catch(() => undefined);
  return () => abort.abort();
}

describe('two servers on one database', () => {
  it('see at once what the other does', async () => {
    const [one, other] = servers as [TestServer, TestServer];
    const heard: ServerEvent[] = [];
    const silence = await listen(other, (event) => heard.push(event));
    for (const name of ['a.mov', 'b.mov']) {
      programmes.push(await one.takeIn(drawMaster(path.join(folders.media, name), { seconds: 2 })));
    }
    await expect.poll(() => heard.some((event) => event.type === 'programme'), { timeout: 10_000 }).toBe(true);
    const id = await order(one, programmes[0]!, 30);
    await other.waitFor(id, ({ state }) => state === 'done');
    const of = (type: string) => heard.some((event) => event.type === type && JSON.stringify(event).includes(id));
    await expect.poll(() => [of('rendition'), of('position')], { timeout: 10_000 }).toEqual([true, true]);
    silence();
  });

  it('share the work, and do each piece once', async () => {
    const [one] = servers as [TestServer];
    const ids: string[] = [];
    for (let value = 20; value < 26; value += 1) ids.push(await order(one, programmes[value % 2]!, value));
    for (const id of ids) expect(await one.waitFor(id)).toMatchObject({ state: 'done' });
    for (const { id } of programmes) {
      const stateOf = async () => (await one.call<AnalysisView>('GET', `programmes/${id}/analysis`)).body.state;
      await expect.poll(stateOf, { timeout: 60_000 }).toBe('done');
      // Whichever of them made the analysis, both have its pictures.
      for (const { address } of servers) {
        const picture = await fetch(`${address}/api/programmes/${id}/strips/0`);
        expect([picture.status, picture.headers.get('content-type')]).toEqual([
          200,
          expect.stringMatching(/^image\//) as string,
        ]);
      }
    }
    expect(readdirSync(folders.output).filter((name) => name.startsWith('.'))).toEqual([]);
    expect(readdirSync(folders.output)).toHaveLength(7);
  });

  it('go on with what one of them was at when it died', async () => {
    const [one, other] = servers as [TestServer, TestServer];
    const slow = { ...recipe(18), video: { codec: 'h264', effort: 'thorough', rate: { mode: 'quality', value: 18 } } };
    const ids: string[] = [];
    for (let count = 0; count < 4; count += 1) {
      const body = { programmeId: programmes[0]!.id, recipe: { ...slow, picture: { fit: null } } };
      ids.push((await one.call<RenditionView>('POST', 'renditions', body)).body.id);
    }
    await one.waitFor(ids[0]!, ({ state }) => state === 'running' || state === 'checking' || state === 'done');
    await one.end('SIGKILL');
    for (const id of ids) expect(await other.waitFor(id)).toMatchObject({ state: 'done' });
    servers = [other];
    // What the dead one had written under its own name goes with its next start.
    servers.push(await start('one'));
    expect(readdirSync(folders.output).filter((name) => !name.startsWith('.'))).toHaveLength(11);
  });
});
