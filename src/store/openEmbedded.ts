import { cp, mkdir, readFile, rename, rm, stat, writeFile } from 'node:fs/promises';
import path from 'node:path';
import { setImmediate } from 'node:timers/promises';
import { PGlite, protocol, types } from '@electric-sql/pglite';
import lockfile from 'proper-lockfile';
import type { Database, Query, Row, SqlValue } from './database.ts';

/** A lock not refreshed for this long belongs to a process that died. */
const STALE_LOCK_MS = 10_000;

/** The same where the process is known to have ended; a living one refreshes its lock twice as often. */
const DEAD_LOCK_MS = 2000;

/** A server killed a moment ago leaves its lock behind until it is stale. */
const RETRIES = { retries: 48, factor: 1, minTimeout: 250 } as const;

/** Another process works on the same data folder. */
export class FolderInUseError extends Error {
  constructor(folder: string, cause: unknown) {
    super(
      `The data folder ${folder} is in use by another Linstock. Stop that one, or set LINSTOCK_DATA to another folder; after a crash, wait ${STALE_LOCK_MS / 1000} seconds.`,
      { cause },
    );
    this.name = 'FolderInUseError';
  }
}

/**
 * Takes a data folder for this process alone. The embedded database has no lock of its own: opened twice, it would
 * silently lose rows.
 *
 * @returns A function that gives the folder back.
 * @throws FolderInUseError when another process holds it.
 */
export async function lockFolder(folder: string, onLost: (error: Error) => void): Promise<() => Promise<void>> {
  await mkdir(folder, { recursive: true });
  const lockfilePath = path.join(folder, 'in-use.lock');
  const owner = path.join(folder, 'in-use.owner');
  const common = { lockfilePath, update: 1000, onCompromised: onLost };
  try {
    if (await isDead(owner)) {
      const giveBack = await lockfile.lock(folder, { ...common, stale: DEAD_LOCK_MS, retries: RETRIES });
      await giveBack();
    }
    const unlock = await lockfile.lock(folder, { ...common, stale: STALE_LOCK_MS, retries: RETRIES });
    await writeFile(owner, await nameProcess(process.pid));
    return unlock;
  } catch (error) {
    throw new FolderInUseError(folder, error);
  }
}

/** Whether the process that took the folder last is known to have ended. A machine that cannot tell says no. */
async function isDead(owner: string): Promise<boolean> {
  const name = await readFile(owner, 'utf8').catch(() => '');
  return /^\d+ \d+/.test(name) && name !== (await nameProcess(parseInt(name, 10)));
}

/** A process by its number, when it began, and since when the machine runs, so that a number given anew is another one. */
async function nameProcess(pid: number): Promise<string> {
  const [facts, boot] = await Promise.all(
    [`/proc/${pid}/stat`, '/proc/sys/kernel/random/boot_id'].map((file) => readFile(file, 'utf8').catch(() => '')),
  );
  // The name of the program stands in brackets and may hold anything; the beginning is the 22nd field (proc(5)).
  const began = facts?.slice(facts.lastIndexOf(')') + 2).split(' ')[19] ?? '';
  return `${pid} ${began} ${boot?.trim()}`;
}

/** The files of the database are damaged. */
export class DatabaseUnreadableError extends Error {
  constructor(folder: string, cause: unknown) {
    super(
      `The database in ${folder} cannot be opened; its files may be damaged. “./linstock restore” lists the copies there are and puts one back.`,
      { cause },
    );
    this.name = 'DatabaseUnreadableError';
  }
}

/**
 * Opens the embedded database.
 *
 * @param folder - Already locked by this process; null keeps everything in memory.
 * @param template - Where an empty database is kept to begin new ones from: making one anew takes seconds, copying it a
 *   fraction of one.
 * @throws DatabaseUnreadableError when its files are damaged.
 */
export async function openEmbedded(folder: string | null, template: string | null = null): Promise<Database> {
  const isNew = folder !== null && (await isMissing(folder));
  if (isNew && template) await beginFrom(template, folder);
  const database = await open(folder);
  if (isNew && template && (await isMissing(template))) await keepAsTemplate(database, folder, template);
  return asPort(database, folder);
}

async function isMissing(folder: string): Promise<boolean> {
  return (await stat(folder).catch(() => null)) === null;
}

/** Half a copy is none: it gets its name once it is whole. */
async function beginFrom(template: string, folder: string): Promise<void> {
  if (await isMissing(template)) return;
  const unfinished = `${folder}.new`;
  await rm(unfinished, { recursive: true, force: true });
  await cp(template, unfinished, { recursive: true });
  await rename(unfinished, folder);
}

async function keepAsTemplate(database: PGlite, folder: string, template: string): Promise<void> {
  const unfinished = `${template}.${process.pid}`;
  try {
    await mkdir(path.dirname(template), { recursive: true });
    await copyFiles(database, folder, unfinished);
    await rename(unfinished, template);
  } catch {
    // Another server was first, or nothing may be written there: the next one just takes its seconds.
    await rm(unfinished, { recursive: true, force: true });
  }
}

function asPort(database: PGlite, folder: string | null): Database {
  return {
    kind: 'embedded',
    query: queryOn(database),
    transaction: (work) => database.transaction((transaction) => work(queryOn(transaction))),
    script: async (text) => {
      await database.transaction((transaction) => transaction.exec(text));
    },
    listen: async (channel, hear) => {
      const end = await database.listen(channel, hear);
      return () => end();
    },
    notify: async (channel, text) => {
      await database.query('SELECT pg_notify($1, $2)', [channel, text]);
    },
    copyTo: folder === null ? null : (to) => copyFiles(database, folder, to),
    close: () => database.close(),
  };
}

async function open(folder: string | null): Promise<PGlite> {
  try {
    const database = await PGlite.create({
      ...(folder ? { dataDir: folder } : {}),
      parsers: { [types.INT8]: (text) => Number(text) },
    });
    await database.query('SELECT 1');
    return database;
  } catch (error) {
    throw new DatabaseUnreadableError(folder ?? 'memory', error);
  }
}

/** Everything is written out first, and nothing else is done meanwhile, so that the files are of one moment. */
async function copyFiles(database: PGlite, from: string, to: string): Promise<void> {
  await database.runExclusive(async () => {
    await database.execProtocolRaw(protocol.serialize.query('CHECKPOINT'), { syncToFs: true });
    await cp(from, to, { recursive: true, force: false, errorOnExist: true });
  });
}

/**
 * The embedded database works on the thread that asks, and its answers are there without the thread ever being left: many
 * askers at once would keep everything else waiting until the last of them is done. So each answer lets the others in first.
 */
function queryOn(database: Pick<PGlite, 'query'>): Query {
  return async <Result extends Row>(text: string, values: readonly SqlValue[] = []) => {
    const { rows } = await database.query<Result>(text, [...values]);
    await setImmediate();
    return rows;
  };
}
