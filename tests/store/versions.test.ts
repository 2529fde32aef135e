import { cpSync, mkdirSync, readdirSync, readFileSync } from 'node:fs';
import path from 'node:path';
import { describe, expect, it } from 'vitest';
import type { RenditionPage, RenditionView, WorkingOrderView } from '../../src/contract/views.ts';
import { pictureOf, soundsOf } from '../../src/core/plan/encodePlan.ts';
import { migrate } from '../../src/store/migrate.ts';
import { openEmbedded } from '../../src/store/openEmbedded.ts';
import { makeFolders, startServer, type TestFolders } from '../support/server.ts';

/** What each released version left behind: its rows, and the last migration it knew. */
const VERSIONS = [{ version: '0.2', migrations: 8 }];

/** In an order that references allow. */
const TABLES = ['programme', 'analysis', 'portion', 'working_order', 'rendition'];

/** A data folder as that version would have left it. */
async function layOut(folders: TestFolders, version: string, migrations: number): Promise<void> {
  const known = path.join(folders.root, 'migrations');
  mkdirSync(known, { recursive: true });
  for (const file of readdirSync('src/store/migrations').sort().slice(0, migrations)) {
    cpSync(path.join('src/store/migrations', file), path.join(known, file));
  }
  mkdirSync(folders.data, { recursive: true });
  const database = await openEmbedded(path.join(folders.data, 'database'));
  await migrate(database, known);
  const rows = JSON.parse(readFileSync(`tests/store/versions/${version}.json`, 'utf8')) as Record<string, object[]>;
  for (const table of TABLES) {
    await database.query(
      `INSERT INTO ${table} OVERRIDING SYSTEM VALUE SELECT * FROM jsonb_populate_recordset(NULL::${table}, $1)`,
      [JSON.stringify(rows[table])],
    );
  }
  await database.close();
}

describe.each(VERSIONS)('a data folder of version $version', ({ version, migrations }) => {
  it('opens: programmes, order lines, results and waiting orders are what they were', async () => {
    const folders = makeFolders();
    await layOut(folders, version, migrations);
    const server = await startServer(folders);
    try {
      const programmes = await server.programmes();
      expect(programmes.map(({ name, state }) => [name, state]).sort()).toEqual([
        ['copied.mp4', 'ready'],
        ['film.mov', 'ready'],
        ['guide.wav', 'ready'],
        ['varying.mkv', 'ready'],
      ]);
      const film = programmes.find(({ name }) => name === 'film.mov')!;
      const order = (await server.call<WorkingOrderView>('GET', `programmes/${film.id}/order`)).body;
      expect(order.recipe).toMatchObject({ container: 'mp4', video: { codec: 'hevc', rate: { bytes: 90_000 } } });

      const list = (await server.call<RenditionPage>('GET', 'renditions')).body.rows;
      expect(list).toHaveLength(8);
      const byName = async (name: string) =>
        (await server.call<RenditionView>('GET', `renditions/${list.find((one) => one.name === name)!.id}`)).body;

      const filled = await byName('film 320x164 h264.mp4');
      expect(filled).toMatchObject({ state: 'done', fill: { outcome: 'filled', secondPasses: [{ quality: null }] } });
      expect(filled.plan.container).toBe('mp4');
      expect(pictureOf(filled.plan)).toMatchObject({
        do: { kind: 'encode', codec: 'h264', rate: { kind: 'fill', cap: 150_000 } },
        out: { size: { width: 320, height: 164 }, frameCount: 50 },
        comparedAt: { width: 320, height: 164 },
      });
      expect(pictureOf(filled.plan)?.chain.map(({ step }) => step)).toEqual([
        'deinterlace',
        'crop',
        'scale',
        'store',
        'tag',
        'stamp',
      ]);
      const copied = await byName('copied 320x180 h264.mp4');
      expect(copied.plan.streams.map((stream) => stream.do.kind)).toEqual(['copy', 'copy']);
      const alone = await byName('guide sound.m4a');
      expect([pictureOf(alone.plan), soundsOf(alone.plan)[0]?.out]).toEqual([
        null,
        { sampleRate: 48000, samples: 96_000, channels: 'mono' },
      ]);

      // What waited or was underway is planned again, and is told that its master went.
      for (const one of list.filter(({ state }) => !['done', 'stopped'].includes(state))) {
        await expect.poll(async () => (await byName(one.name)).state, { timeout: 20_000 }).toBe('failed');
        expect((await byName(one.name)).problem?.message).toMatch(/film\.mov/);
      }
    } finally {
      await server.end('SIGTERM');
    }
  });
});
