import { readdir, readFile } from 'node:fs/promises';
import path from 'node:path';
import type { Database } from './database.ts';

const CREATE_RECORD = `
  CREATE TABLE IF NOT EXISTS migration (
    number     integer PRIMARY KEY,
    name       text NOT NULL,
    applied_at timestamptz NOT NULL DEFAULT now()
  )`;

/**
 * Brings the schema up to date: each numbered file once, in order, each wholly or not at all.
 *
 * @param folder - Holds files such as `0001_first.sql`, never edited once released.
 * @param beforeChange - Called once before a database that holds something is changed.
 * @returns The names of those applied now.
 * @throws When the database was written by a newer version.
 */
export async function migrate(
  database: Database,
  folder: string,
  beforeChange: () => Promise<void> = () => Promise.resolve(),
): Promise<string[]> {
  await database.script(CREATE_RECORD);
  const files = (await readdir(/* turbopackIgnore: true */ folder))
    .filter((file) => /^\d{4}_\w+\.sql$/.test(file))
    .sort();
  const done = await database.query<{ number: number }>('SELECT number FROM migration');
  const applied = new Set(done.map((row) => row.number));
  const newest = Math.max(0, ...applied);
  if (newest > files.length) {
    throw new Error(
      `The database is of a newer Linstock (schema ${newest}, this one knows ${files.length}). Start the newer version.`,
    );
  }
  const isBehind = files.some((file) => !applied.has(Number(file.slice(0, 4))));
  if (isBehind && applied.size > 0) await beforeChange();
  const names: string[] = [];
  for (const file of files) {
    const number = Number(file.slice(0, 4));
    if (applied.has(number)) continue;
    const text = await readFile(path.join(/* turbopackIgnore: true */ folder, file), 'utf8');
    await database.script(`${text}\nINSERT INTO migration (number, name) VALUES (${number}, '${file}');`);
    names.push(file);
  }
  return names;
}
