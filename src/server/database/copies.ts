import { cp, mkdir, readdir, rename, rm, stat } from 'node:fs/promises';
import path from 'node:path';
import type { Database } from '../../store/database.ts';
import type { Context } from '../context.ts';

/** Older copies go. */
const KEPT = 3;

const A_DAY_MS = 24 * 3600 * 1000;

/**
 * Whether a day has gone by is looked at this often, and not at the start, when there is enough to do; a machine that
 * sleeps at night gets its copy in the morning.
 */
const LOOK_EVERY_MS = 10 * 60_000;

/** Where the embedded database lies in the data folder. */
export function databaseFolder(dataFolder: string): string {
  return path.join(dataFolder, 'database');
}

/** A copy of the embedded database. */
export interface DatabaseCopy {
  readonly name: string;
  readonly folder: string;
  readonly madeAt: Date;
}

/** The copies there are, the newest first. */
export async function listCopies(dataFolder: string): Promise<DatabaseCopy[]> {
  const home = copiesFolder(dataFolder);
  const names = await readdir(home).catch(() => []);
  const copies = names.flatMap((name) => {
    const madeAt = readTime(name);
    return madeAt ? [{ name, folder: path.join(home, name), madeAt }] : [];
  });
  return copies.sort((a, b) => b.madeAt.getTime() - a.madeAt.getTime());
}

/**
 * Makes a copy beside the database and throws the oldest away; nothing is done for a database server, which has its own
 * ways. A copy that was not finished is never listed.
 */
export async function makeCopy(dataFolder: string, database: Database, now: Date): Promise<void> {
  if (!database.copyTo) return;
  const folder = path.join(copiesFolder(dataFolder), now.toISOString().replaceAll(':', '-'));
  await mkdir(path.dirname(folder), { recursive: true });
  const unfinished = `${folder}.unfinished`;
  try {
    await database.copyTo(unfinished);
    await rename(unfinished, folder);
  } catch (error) {
    await rm(unfinished, { recursive: true, force: true });
    throw error;
  }
  for (const { folder: old } of (await listCopies(dataFolder)).slice(KEPT)) {
    await rm(old, { recursive: true, force: true });
  }
}

/**
 * Puts a copy in the place of the database, which is kept under another name. The data folder must be this process's.
 *
 * @returns Where the database that was there is now; null when there was none.
 */
export async function putBack(dataFolder: string, copy: DatabaseCopy, now: Date): Promise<string | null> {
  const place = databaseFolder(dataFolder);
  const aside = `${place}-until-${now.toISOString().replaceAll(':', '-')}`;
  const wasThere = (await stat(place).catch(() => null)) !== null;
  // Copied beside it first: a full disk must not leave half a database in its place.
  await cp(copy.folder, `${place}.new`, { recursive: true });
  if (wasThere) await rename(place, aside);
  await rename(`${place}.new`, place);
  return wasThere ? aside : null;
}

/** Makes a copy a day, as long as the server runs. */
export function makeNightlyCopies(context: Context): { stop(): Promise<void> } {
  const { config, database, logger, now } = context;
  let underway: Promise<void> = Promise.resolve();
  const look = async () => {
    const [newest] = await listCopies(config.dataFolder);
    if (newest && now().getTime() - newest.madeAt.getTime() < A_DAY_MS) return;
    await makeCopy(config.dataFolder, database, now());
  };
  const begin = () => {
    underway = underway
      .then(look)
      .catch((error: unknown) => logger.warn({ err: error }, 'the database could not be copied'));
  };
  const timer = setInterval(begin, LOOK_EVERY_MS);
  return {
    stop: async () => {
      clearInterval(timer);
      await underway;
    },
  };
}

function copiesFolder(dataFolder: string): string {
  return path.join(dataFolder, 'database-copies');
}

/** `2026-10-02T20-00-00.000Z` */
function readTime(name: string): Date | null {
  if (!/^\d{4}-\d{2}-\d{2}T\d{2}-\d{2}-\d{2}\.\d{3}Z$/.test(name)) return null;
  const [day = '', time = ''] = name.split('T');
  return new Date(`${day}T${time.replaceAll('-', ':')}`);
}
