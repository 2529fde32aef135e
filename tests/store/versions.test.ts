import { cpSync, mkdirSync, readdirSync, readFileSync } from 'node:fs';
import path from 'node:path';
import { describe, expect, it } from 'vitest';
import type { BatchSummary, BatchView } from '../../src/contract/batch.ts';
import type { QueueView } from '../../src/contract/queue.ts';
import type { ScaleView } from '../../src/contract/trial.ts';
import type {
  AnalysisView,
  RenditionPage,
  RenditionView,
  StripsView,
  WorkingOrderView,
} from '../../src/contract/views.ts';
import type { ShelfItem } from '../../src/core/shelf/shelf.ts';
import { pictureOf, soundsOf } from '../../src/core/plan/encodePlan.ts';
import { migrate } from '../../src/store/migrate.ts';
import { openEmbedded } from '../../src/store/openEmbedded.ts';
import { makeFolders, startServer, type TestFolders } from '../support/server.ts';

/** In an order that references allow. */
const TABLES = [
  ...['programme', 'analysis', 'portion', 'working_order', 'shelf', 'setting', 'batch', 'batch_row'],
  ...['rendition', 'trial', 'measured_group', 'job'],
];

/** Numbers that a table counts up by itself, as in rows that come after those laid out. */
const NEXT_NUMBER = 1000;

/** A data folder as a released version would have left it: its rows, and the last migration it knew. */
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
  for (const table of TABLES.filter((one) => rows[one])) {
    const [{ columns } = { columns: '' }] = await database.query<{ columns: string }>(
      `SELECT string_agg(column_name, ', ') AS columns FROM information_schema.columns
       WHERE table_name = $1 AND is_generated = 'NEVER'`,
      [table],
    );
    await database.query(
      `INSERT INTO ${table} (${columns}) OVERRIDING SYSTEM VALUE
       SELECT ${columns} FROM jsonb_populate_recordset(NULL::${table}, $1)`,
      [JSON.stringify(rows[table])],
    );
  }
  const counted = await database.query<{ table: string; column: string }>(
    `SELECT table_name AS table, column_name AS column FROM information_schema.columns WHERE is_identity = 'YES'`,
    [],
  );
  for (const { table, column } of counted) {
    await database.query(`ALTER TABLE ${table} ALTER COLUMN ${column} RESTART WITH ${NEXT_NUMBER}`, []);
  }
  await database.close();
}

describe('a data folder of version 0.2', () => {
  it('opens: programmes, order lines, results and waiting orders are what they were', async () => {
    const folders = makeFolders();
    await layOut(folders, '0.2', 8);
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

describe('a data folder of version 0.12', () => {
  it('opens: the shelf, orders, batches, trials, the ledger and what waits are what they were', async () => {
    const folders = makeFolders();
    await layOut(folders, '0.12', 20);
    const server = await startServer(folders);
    const get = async <Body>(where: string) => (await server.call<Body>('GET', where)).body;
    try {
      const idOf = new Map((await server.programmes()).map(({ name, id }) => [name, id]));
      expect([...idOf.keys()].sort()).toEqual(['film.mov', 'grain.mov', 'guide.wav']);
      // What lies along the length stood among the rest of the findings.
      const strips = await get<StripsView>(`programmes/${idOf.get('film.mov')}/strips`);
      expect([strips.busyness?.length, strips.sound?.peaks.length]).toEqual([6, 30]);
      const found = await get<AnalysisView>(`programmes/${idOf.get('guide.wav')}/analysis`);
      expect([found.state, found.busyness, found.channels?.peaks.length]).toEqual(['done', null, 1]);

      const own = <Entry extends { name: string; isStock: boolean }>(all: readonly Entry[]) =>
        all.filter(({ isStock }) => !isStock);
      const [recipe] = own(await get<(ShelfItem & Record<'recipe', object>)[]>('recipes'));
      expect(recipe).toMatchObject({ name: 'School newsletter', tags: ['school'], notes: 'For the Friday letter' });
      const [bundle] = own(await get<(ShelfItem & Record<'recipeIds', string[]>)[]>('bundles'));
      expect(bundle).toMatchObject({ name: 'Both versions', recipeIds: [recipe!.id, 'stock-small-720'] });
      const [brief] = own(await get<(ShelfItem & Record<'brief', { maxBytes: number }>)[]>('briefs'));
      expect(brief?.brief.maxBytes).toBe(200_000);
      const order = await get<WorkingOrderView>(`programmes/${idOf.get('film.mov')}/order`);
      expect(order).toMatchObject({ briefId: brief!.id, recipe: { video: { codec: 'hevc' } } });

      const [{ id: batchId } = { id: '' }] = await get<BatchSummary[]>('batches');
      const batch = await get<BatchView>(`batches/${batchId}`);
      expect(batch).toMatchObject({ name: 'Friday', asked: 6, made: 4, leftOut: 2, waiting: 0 });
      const filled = batch.rows.find((row) => row.programmeName === 'grain.mov' && row.recipeName === recipe!.name);
      expect(await get<RenditionView>(`renditions/${filled!.renditionId}`)).toMatchObject({
        ...{
          state: 'done',
          fill: { outcome: 'passes-spent', joinedFrom: 2 },
          quality: { scaler: 'bicubic, at 160 × 90' },
        },
      });

      const scale = await get<ScaleView>(`programmes/${idOf.get('grain.mov')}/scale?measure=ssim`);
      expect(scale.trialId).not.toBeNull();
      expect(scale.curves.map(({ codec }) => codec)).toContain('hevc');

      const queue = await get<QueueView>('queue');
      expect(queue).toMatchObject({ paused: true, hours: { from: '23:00', to: '07:00' }, atOnce: 1 });
      expect(queue.rows.map(({ state, name }) => [state, name])).toEqual([
        ['queued', 'film 160x90 h264 3.mp4'],
        ['queued', 'film 160x90 h264 4.mp4'],
      ]);
      // How soundings of before lay off says nothing of those of today.
      expect(await get(`programmes/${idOf.get('film.mov')}/came-out`)).toEqual({ cameOut: [] });
    } finally {
      await server.end('SIGTERM');
    }
  });
});
