import { readFileSync } from 'node:fs';
import path from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Database } from '../../src/store/database.ts';
import { migrate } from '../../src/store/migrate.ts';
import { openEmbedded } from '../../src/store/openEmbedded.ts';
import { openServer } from '../../src/store/openServer.ts';
import { packFrameTimes } from '../../src/server/programmes/frameTimes.ts';
import * as programmes from '../../src/store/statements/programmes.ts';
import * as jobs from '../../src/store/statements/jobs.ts';
import * as renditions from '../../src/store/statements/renditions.ts';
import { startPostgres } from '../support/postgres.ts';

const MIGRATIONS = path.resolve('src/store/migrations');
const SNAPSHOT = path.resolve('tests/store/schema.snapshot.txt');
const NOW = new Date('2026-10-02T20:00:00Z');

interface Opened {
  readonly database: Database;
  readonly close: () => Promise<void>;
}

const KINDS: readonly (readonly [name: string, open: () => Promise<Opened>])[] = [
  ['embedded', () => openEmbedded(null).then((database) => ({ database, close: () => database.close() }))],
  [
    'a PostgreSQL server',
    async () => {
      const { url, stop } = await startPostgres();
      const database = openServer(url);
      return { database, close: () => database.close().then(stop) };
    },
  ],
];

describe.each(KINDS)('the store, %s', (_name, open) => {
  let opened: Opened;
  beforeAll(async () => {
    opened = await open();
    await migrate(opened.database, MIGRATIONS);
  });
  afterAll(() => opened?.close());

  const query = <Row extends Record<string, unknown>>(text: string, values: Parameters<Database['query']>[1] = []) =>
    opened.database.query<Row>(text, values);
  const addProgramme = (id: string) =>
    query(programmes.INSERT_PROGRAMME, [
      id,
      `/media/${id}.mov`,
      `${id}.mov`,
      JSON.stringify({ bytes: 5_000_000_000 }),
      NOW,
      NOW,
      'fingerprint',
      new Uint8Array(4),
      '{}',
      null,
    ]);
  const addRendition = (id: string, programme: string) =>
    query(renditions.INSERT_RENDITION, [
      id,
      programme,
      '{}',
      null,
      '{}',
      `${id}.mp4`,
      `/out/${id}.mp4`,
      false,
      NOW,
      2,
      6_000_000_000,
      null,
      '{}',
      null,
      null,
      null,
      JSON.stringify({ kind: { codec: 'h264' }, work: 7e9, isForeseen: true, masters: 3e9 }),
    ]);

  it('applies every migration once, to the schema on record', async () => {
    expect(await migrate(opened.database, MIGRATIONS)).toEqual([]);
    const columns = await query<{ line: string }>(`
      SELECT table_name || '.' || column_name || ' ' || data_type || ' ' || is_nullable AS line
      FROM information_schema.columns WHERE table_schema = 'public' ORDER BY table_name, ordinal_position`);
    expect(columns.map((column) => column.line).join('\n')).toBe(readFileSync(SNAPSHOT, 'utf8').trim());
  });

  it('keeps the times of a variable rate, and soundings of one size apart by what was done before', async () => {
    const times = packFrameTimes([0, 0.04, 0.1]);
    await query(programmes.INSERT_PROGRAMME, ['vary', '/media/v.mp4', 'v', '{}', NOW, NOW, null, null, null, times]);
    const [row] = await query<{ frame_times: Uint8Array }>(programmes.READ_FRAME_TIMES, ['vary']);
    expect(Buffer.from(row!.frame_times).equals(Buffer.from(times))).toBe(true);
    const keep = (preparation: string, rate: number, error: number | null) =>
      query(programmes.SAVE_SOUNDING, [
        'vary',
        'h264',
        640,
        360,
        preparation,
        0,
        3,
        JSON.stringify([rate]),
        error,
        error === null,
        NOW,
      ]);
    await keep('', 1, 0.5);
    await keep('top-first', 2, 0.25);
    await keep('', 3, null);
    const read = (preparation: string) =>
      query(programmes.FIND_SOUNDING, ['vary', 'h264', 640, 360, preparation, 0, 3]);
    expect([await read(''), await read('top-first')]).toEqual([
      [{ points: [3], error: null, is_rough: true, has_failed: false }],
      [{ points: [2], error: 0.25, is_rough: false, has_failed: false }],
    ]);
  });

  it('takes a path once', async () => {
    expect(await addProgramme('once')).toHaveLength(1);
    expect(
      await query(programmes.INSERT_PROGRAMME, [
        'other',
        '/media/once.mov',
        'x',
        '{}',
        NOW,
        NOW,
        null,
        null,
        null,
        null,
      ]),
    ).toHaveLength(0);
  });

  it('hands out whole numbers, times and facts as they went in', async () => {
    await addProgramme('typed');
    await addRendition('typed-rendition', 'typed');
    const [row] = await query<{ expected_bytes: number; queued_at: Date; source_facts: { bytes: number } }>(
      renditions.FIND_RENDITION,
      ['typed-rendition'],
    );
    expect(row).toMatchObject({
      expected_bytes: 6_000_000_000,
      queued_at: NOW,
      source_facts: { bytes: 5_000_000_000 },
    });
    await query(renditions.STOP_RENDITION, ['typed-rendition', NOW]);
  });

  it('sums up what is left of the queue, by programme and kind, or until a batch is done, and counts what stands still', async () => {
    await addProgramme('left');
    const ids = ['left-first', 'left-of-batch', 'left-last'];
    for (const id of ids) {
      await addRendition(id, 'left');
      await query(jobs.ENQUEUE_JOB, ['rendition', id, '{}', 1, false]);
    }
    await query(`UPDATE rendition SET batch_id = 'night' WHERE id = 'left-of-batch'`);
    await query(`UPDATE rendition SET state = 'running', seconds_left = 90 WHERE id = 'left-first'`);
    const all = {
      programme_id: 'left',
      kind: { codec: 'h264' },
      is_foreseen: true,
      renditions: 2,
      unkept: 0,
      work: 14e9,
      masters: 6e9,
      seconds: 90,
      paused: 0,
    };
    expect(await query(renditions.WORK_LEFT, [null])).toEqual([all]);
    const ofNight = { ...all, renditions: 1, work: 7e9, masters: 3e9 };
    expect(await query(renditions.WORK_LEFT, ['night'])).toEqual([ofNight]);
    expect(await query(renditions.WORK_LEFT, ['none'])).toEqual([]);
    await query(jobs.SET_HELD, ['rendition', 'left-first', true]);
    expect(await query(renditions.WORK_LEFT, [null])).toEqual([{ ...all, seconds: 0, paused: 1 }]);
    expect(await query(renditions.WORK_LEFT, ['night'])).toEqual([{ ...ofNight, seconds: 0 }]);
    for (const id of ids) await query(jobs.WITHDRAW_JOB, ['rendition', id]);
    for (const id of ids) await query(renditions.STOP_RENDITION, [id, NOW]);
  });

  it('tells what came of a programme: the whole at constant quality, the first encode of a size', async () => {
    await addProgramme('came');
    const plan = JSON.stringify({ budget: { soundedBytes: 800, split: { audio: 90, container: 10 } } });
    const fill = JSON.stringify({ secondPasses: [{ bytes: 1300 }, { bytes: 990 }] });
    for (const [id, filled] of [
      ['came-plain', null],
      ['came-filled', fill],
    ] as const) {
      await addRendition(id, 'came');
      await query(
        `UPDATE rendition SET state = 'done', bytes = 1000, plan = $2, fill = $3, outline = '{"codec": "h264"}', finished_at = $4
         WHERE id = $1`,
        [id, plan, filled, NOW],
      );
    }
    const rows = await query<{ bytes: number }>(renditions.CAME_OUT, ['came']);
    expect(rows.toSorted((a, b) => a.bytes - b.bytes)).toMatchObject([
      { codec: 'h264', bytes: 1000, sounded: 800, audio: 90, container: 10 },
      { codec: 'h264', bytes: 1300, sounded: 800, audio: 90, container: 10 },
    ]);
  });

  it('claims in order, each once, and fences by the attempt', async () => {
    await addProgramme('queue');
    for (const id of ['first', 'second']) {
      await addRendition(id, 'queue');
      await query(jobs.ENQUEUE_JOB, ['rendition', id, '{}', 30, false]);
    }
    const claim = (runner: string) =>
      query<{ id: number; subject: string; attempt: number; lost: number }>(jobs.CLAIM_JOB, [
        runner,
        60_000,
        'rendition,look',
        40,
      ]);
    const [first] = await claim('one');
    expect(first).toMatchObject({ subject: 'first', attempt: 1, lost: 0 });
    // A runner that lets its lease run out loses its work to another, and then cannot write about it.
    await query(`UPDATE job SET lease_until = now() - interval '1 second' WHERE id = $1`, [first!.id]);
    expect(await claim('two')).toMatchObject([{ subject: 'first', attempt: 2, lost: 1 }]);
    expect(await claim('three')).toMatchObject([{ subject: 'second', attempt: 1 }]);
    expect(await claim('three')).toEqual([]);
    expect(await query(jobs.HOLD_JOB, [first!.id, 1, 60_000])).toEqual([]);
    expect(await query(jobs.SETTLE_JOB, [first!.id, 1])).toEqual([]);
    expect(await query(jobs.HOLD_JOB, [first!.id, 2, 60_000])).toHaveLength(1);
    expect(await query(jobs.RELEASE_JOBS_OF, ['two'])).toEqual([{ kind: 'rendition', subject: 'first' }]);
    expect(await query(jobs.SETTLE_JOB, [first!.id, 2])).toHaveLength(1);
    expect(await query(jobs.WITHDRAW_JOB, ['rendition', 'second'])).toHaveLength(1);
  });

  it('puts what was asked for last first where that is wanted, and keeps only so many', async () => {
    for (const subject of ['a', 'b', 'c', 'a']) await query(jobs.ENQUEUE_JOB, ['sounding', subject, '{}', 10, true]);
    await query(jobs.TRIM_JOBS, ['sounding', 2, 10]);
    const standing = (subject: string) => query(jobs.FIND_STANDING, ['sounding', subject]);
    expect(await standing('a')).toMatchObject([{ ahead: 0 }]);
    expect(await standing('c')).toMatchObject([{ ahead: 1 }]);
    expect(await standing('b')).toEqual([]);
    for (const subject of ['a', 'c']) await query(jobs.WITHDRAW_JOB, ['sounding', subject]);
  });

  it('tells those who listen, once it is certain', async () => {
    const heard: string[] = [];
    const silence = await opened.database.listen('linstock_test', (text) => heard.push(text));
    await opened.database.notify('linstock_test', 'one');
    await expect.poll(() => heard).toEqual(['one']);
    await silence();
    await opened.database.notify('linstock_test', 'two');
    expect(heard).toEqual(['one']);
  });

  it('lets others in between, however many ask at once', async () => {
    let answered = 0;
    let answeredWhenHeard = 0;
    const asking = Array.from({ length: 40 }, () => query('SELECT 1').then(() => (answered += 1)));
    const heard = new Promise<void>((resolve) =>
      setImmediate(() => {
        answeredWhenHeard = answered;
        resolve();
      }),
    );
    await Promise.all([...asking, heard]);
    expect(answered).toBe(40);
    expect(answeredWhenHeard).toBeLessThan(40);
  });

  it('forgets nothing that is on its way', async () => {
    expect(await query(programmes.FORGET_PROGRAMME, ['queue', NOW])).toEqual([]);
    for (const id of ['first', 'second']) await query(renditions.STOP_RENDITION, [id, NOW]);
    expect(await query(programmes.FORGET_PROGRAMME, ['queue', NOW])).toHaveLength(1);
    expect(await query(renditions.FIND_RENDITION, ['first'])).toEqual([]);
    expect(await query(programmes.LIST_PROGRAMMES, [null, null, 100])).not.toContainEqual(
      expect.objectContaining({ id: 'queue' }),
    );
  });

  it('brings a forgotten programme back with all it had, unless its path is another’s by now', async () => {
    expect(await query(programmes.RESTORE_PROGRAMME, ['queue'])).toHaveLength(1);
    expect(await query(renditions.FIND_RENDITION, ['first'])).toHaveLength(1);
    expect(await query(programmes.REMOVE_HIDDEN, ['queue'])).toEqual([]);
    await query(programmes.FORGET_PROGRAMME, ['queue', NOW]);
    const values = ['queue-2', '/media/queue.mov', 'q', '{}', NOW, NOW, null, null, null, null];
    expect(await query(programmes.INSERT_PROGRAMME, values)).toHaveLength(1);
    expect(await query(programmes.RESTORE_PROGRAMME, ['queue'])).toEqual([]);
    expect(await query(programmes.LIST_HIDDEN)).toMatchObject([{ id: 'queue', renditions: 2, portions: 0 }]);
    expect(await query(programmes.REMOVE_HIDDEN, ['queue'])).toEqual([{ id: 'queue' }]);
    expect(await query(renditions.READ_FRAMES, ['first'])).toEqual([]);
  });

  it('keeps nothing of steps that belong together when one fails', async () => {
    const half = opened.database.transaction(async (inside) => {
      await inside(programmes.INSERT_PROGRAMME, [
        'half',
        '/media/half.mov',
        'h',
        '{}',
        NOW,
        NOW,
        null,
        null,
        null,
        null,
      ]);
      await inside('SELECT nonsense');
    });
    await expect(half).rejects.toThrow();
    expect(await query(programmes.FIND_PROGRAMME, ['half'])).toEqual([]);
  });

  it('keeps nothing of a script that fails half-way', async () => {
    await expect(opened.database.script('CREATE TABLE half (id integer); SELECT nonsense;')).rejects.toThrow();
    expect(await query("SELECT 1 FROM information_schema.tables WHERE table_name = 'half'")).toEqual([]);
  });

  it('refuses a database of a newer version', async () => {
    await query('INSERT INTO migration (number, name) VALUES (999, $1)', ['later']);
    await expect(migrate(opened.database, MIGRATIONS)).rejects.toThrow(/newer Linstock/);
    await query('DELETE FROM migration WHERE number = 999');
  });
});
