import { execFileSync, spawn, type ChildProcess } from 'node:child_process';
import { chmodSync, chownSync, existsSync, readFileSync, readdirSync } from 'node:fs';
import { createServer } from 'node:net';
import path from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Database } from '../../src/store/database.ts';
import { migrate } from '../../src/store/migrate.ts';
import { openEmbedded } from '../../src/store/openEmbedded.ts';
import { openServer } from '../../src/store/openServer.ts';
import { packFrameTimes } from '../../src/server/programmes/frameTimes.ts';
import * as programmes from '../../src/store/statements/programmes.ts';
import * as renditions from '../../src/store/statements/renditions.ts';
import { makeFolder } from '../support/footage.ts';

const MIGRATIONS = path.resolve('src/store/migrations');
const SNAPSHOT = path.resolve('tests/store/schema.snapshot.txt');
const NOW = new Date('2026-10-02T20:00:00Z');

interface Opened {
  readonly database: Database;
  readonly close: () => Promise<void>;
}

/** Debian's PostgreSQL, where it is installed. */
const SERVER_PROGRAMS = existsSync('/usr/lib/postgresql')
  ? readdirSync('/usr/lib/postgresql')
      .map((version) => `/usr/lib/postgresql/${version}/bin`)
      .find((folder) => existsSync(`${folder}/initdb`))
  : undefined;

async function startPostgres(programs: string): Promise<Opened> {
  const folder = makeFolder();
  const port = await freePort();
  // The server refuses to run as root, so it runs as the user its package made.
  const user = process.getuid?.() === 0 ? { uid: idOf('-u'), gid: idOf('-g') } : null;
  if (user) {
    chmodSync(folder, 0o755);
    chownSync(folder, user.uid, user.gid);
  }
  const data = path.join(folder, 'cluster');
  execFileSync(`${programs}/initdb`, ['-D', data, '-U', 'linstock', '--auth=trust', '-E', 'UTF8', '--locale=C'], {
    ...user,
    cwd: folder,
    stdio: 'ignore',
  });
  const server = spawn(`${programs}/postgres`, ['-D', data, '-h', '127.0.0.1', '-p', String(port), '-k', folder], {
    ...user,
    cwd: folder,
    stdio: 'ignore',
  });
  const database = openServer(`postgresql://linstock@127.0.0.1:${port}/postgres`);
  await untilReady(database);
  return { database, close: () => database.close().then(() => endProcess(server)) };
}

const KINDS: readonly (readonly [name: string, isThere: boolean, open: () => Promise<Opened>])[] = [
  ['embedded', true, () => openEmbedded(null).then((database) => ({ database, close: () => database.close() }))],
  ['a PostgreSQL server', SERVER_PROGRAMS !== undefined, () => startPostgres(SERVER_PROGRAMS ?? '')],
];

describe.each(KINDS)('the store, %s', (_name, isThere, open) => {
  let opened: Opened;
  beforeAll(async () => {
    if (!isThere) return;
    opened = await open();
    await migrate(opened.database, MIGRATIONS);
  });
  afterAll(() => opened?.close());

  const when = it.runIf(isThere);
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
    ]);

  when('applies every migration once, to the schema on record', async () => {
    expect(await migrate(opened.database, MIGRATIONS)).toEqual([]);
    const columns = await query<{ line: string }>(`
      SELECT table_name || '.' || column_name || ' ' || data_type || ' ' || is_nullable AS line
      FROM information_schema.columns WHERE table_schema = 'public' ORDER BY table_name, ordinal_position`);
    expect(columns.map((column) => column.line).join('\n')).toBe(readFileSync(SNAPSHOT, 'utf8').trim());
  });

  when('keeps the times of a variable rate, and soundings of one size apart by what was done before', async () => {
    const times = packFrameTimes([0, 0.04, 0.1]);
    await query(programmes.INSERT_PROGRAMME, ['vary', '/media/v.mp4', 'v', '{}', NOW, NOW, null, null, null, times]);
    const [row] = await query<{ frame_times: Uint8Array }>(programmes.READ_FRAME_TIMES, ['vary']);
    expect(Buffer.from(row!.frame_times).equals(Buffer.from(times))).toBe(true);
    const keep = (preparation: string, rate: number) =>
      query(programmes.SAVE_SOUNDING, ['vary', 'h264', 640, 360, preparation, 0, 3, JSON.stringify([rate]), NOW]);
    await keep('', 1);
    await keep('top-first', 2);
    await keep('', 3);
    const read = (preparation: string) =>
      query(programmes.FIND_SOUNDING, ['vary', 'h264', 640, 360, preparation, 0, 3]);
    expect([await read(''), await read('top-first')]).toEqual([[{ points: [3] }], [{ points: [2] }]]);
  });

  when('takes a path once', async () => {
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

  when('hands out whole numbers, times and facts as they went in', async () => {
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

  when('claims in order, each once, and fences by the attempt', async () => {
    await addProgramme('queue');
    await addRendition('first', 'queue');
    await addRendition('second', 'queue');
    const claim = (runner: string, lost: Date) =>
      query<{ id: string; attempt: number }>(renditions.CLAIM_RENDITION, [runner, NOW, lost]);
    const longAgo = new Date(NOW.getTime() - 60_000);
    const later = new Date(NOW.getTime() + 60_000);
    expect(await claim('one', longAgo)).toEqual([{ id: 'first', attempt: 1 }]);
    expect(await claim('two', longAgo)).toEqual([{ id: 'second', attempt: 1 }]);
    expect(await claim('two', longAgo)).toEqual([]);
    // A runner that is not heard of loses its work to another, and then cannot report on it.
    expect(await claim('three', later)).toEqual([{ id: 'first', attempt: 2 }]);
    const report = (attempt: number) =>
      query(renditions.REPORT_PROGRESS, ['first', attempt, NOW, 'running', 'encode', 2, 2, 0.5, 25, 3]);
    expect(await report(1)).toEqual([]);
    expect(await report(2)).toHaveLength(1);
    expect(await query(renditions.REQUEUE_OF_RUNNER, ['three'])).toEqual([{ id: 'first' }]);
    expect(await report(2)).toEqual([]);
  });

  when('forgets nothing that is on its way', async () => {
    expect(await query(programmes.FORGET_PROGRAMME, ['queue', NOW])).toEqual([]);
    for (const id of ['first', 'second']) await query(renditions.STOP_RENDITION, [id, NOW]);
    expect(await query(programmes.FORGET_PROGRAMME, ['queue', NOW])).toHaveLength(1);
    expect(await query(renditions.FIND_RENDITION, ['first'])).toEqual([]);
    expect(await query(programmes.LIST_PROGRAMMES)).not.toContainEqual(expect.objectContaining({ id: 'queue' }));
  });

  when('brings a forgotten programme back with all it had, unless its path is another’s by now', async () => {
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

  when('keeps nothing of steps that belong together when one fails', async () => {
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

  when('keeps nothing of a script that fails half-way', async () => {
    await expect(opened.database.script('CREATE TABLE half (id integer); SELECT nonsense;')).rejects.toThrow();
    expect(await query("SELECT 1 FROM information_schema.tables WHERE table_name = 'half'")).toEqual([]);
  });

  when('refuses a database of a newer version', async () => {
    await query('INSERT INTO migration (number, name) VALUES (999, $1)', ['later']);
    await expect(migrate(opened.database, MIGRATIONS)).rejects.toThrow(/newer Linstock/);
    await query('DELETE FROM migration WHERE number = 999');
  });
});

function idOf(flag: string): number {
  return Number(execFileSync('id', [flag, 'postgres'], { encoding: 'utf8' }));
}

function freePort(): Promise<number> {
  return new Promise((resolve) => {
    const server = createServer().listen(0, '127.0.0.1', () => {
      const address = server.address();
      server.close(() => resolve(typeof address === 'object' && address ? address.port : 0));
    });
  });
}

async function untilReady(database: Database): Promise<void> {
  for (let tries = 0; ; tries += 1) {
    try {
      await database.query('SELECT 1');
      return;
    } catch (error) {
      if (tries > 100) throw error;
      await new Promise((resolve) => setTimeout(resolve, 100));
    }
  }
}

function endProcess(child: ChildProcess): Promise<void> {
  return new Promise((resolve) => {
    child.once('exit', () => resolve());
    child.kill('SIGINT');
  });
}
