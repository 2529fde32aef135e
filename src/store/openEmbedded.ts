import { mkdir } from 'node:fs/promises';
import path from 'node:path';
import { PGlite, types } from '@electric-sql/pglite';
import lockfile from 'proper-lockfile';
import type { Database, Row } from './database.ts';

/** A lock not refreshed for this long belongs to a process that died. */
const STALE_LOCK_MS = 10_000;

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
  try {
    return await lockfile.lock(folder, {
      stale: STALE_LOCK_MS,
      update: 2000,
      // A server killed a moment ago leaves its lock behind until it is stale.
      retries: { retries: 24, factor: 1, minTimeout: 500 },
      lockfilePath: path.join(folder, 'in-use.lock'),
      onCompromised: onLost,
    });
  } catch (error) {
    throw new FolderInUseError(folder, error);
  }
}

/**
 * Opens the embedded database.
 *
 * @param folder - Already locked by this process; null keeps everything in memory.
 */
export async function openEmbedded(folder: string | null): Promise<Database> {
  const database = await PGlite.create({
    ...(folder ? { dataDir: folder } : {}),
    parsers: { [types.INT8]: (text) => Number(text) },
  });
  return {
    kind: 'embedded',
    query: async <Result extends Row>(text: string, values: readonly unknown[] = []) =>
      (await database.query<Result>(text, [...values])).rows,
    script: async (text) => {
      await database.transaction((transaction) => transaction.exec(text));
    },
    close: () => database.close(),
  };
}
