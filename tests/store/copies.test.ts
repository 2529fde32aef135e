import { execFileSync } from 'node:child_process';
import { existsSync, mkdirSync, readdirSync, rmSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { describe, expect, it } from 'vitest';
import { databaseFolder, listCopies, makeCopy, putBack } from '../../src/server/database/copies.ts';
import { migrate } from '../../src/store/migrate.ts';
import { openEmbedded } from '../../src/store/openEmbedded.ts';
import { makeFolder } from '../support/footage.ts';

const at = (day: number) => new Date(Date.UTC(2026, 9, day, 3));

async function makeData() {
  const data = makeFolder();
  const database = await openEmbedded(databaseFolder(data));
  await database.script('CREATE TABLE word (said text)');
  const say = (word: string) => database.query('INSERT INTO word VALUES ($1)', [word]);
  return { data, database, say };
}

async function wordsIn(folder: string): Promise<string[]> {
  const database = await openEmbedded(folder);
  const rows = await database.query<{ said: string }>('SELECT said FROM word ORDER BY said');
  await database.close();
  return rows.map(({ said }) => said);
}

describe('copies of the embedded database', () => {
  it('hold everything of their moment while the work goes on, and three are kept', async () => {
    const { data, database, say } = await makeData();
    for (const [index, word] of ['a', 'b', 'c', 'd'].entries()) {
      await say(word);
      const copying = makeCopy(data, database, at(index + 1));
      await Promise.all([copying, ...Array.from({ length: 20 }, () => say('z'))]);
    }
    await database.close();
    const copies = await listCopies(data);
    expect(copies.map(({ madeAt }) => madeAt)).toEqual([at(4), at(3), at(2)]);
    const words = await wordsIn(copies[0]!.folder);
    expect(words).toEqual(expect.arrayContaining(['a', 'b', 'c', 'd']));
  });

  it('are put back in the place of what is there, which is kept aside', async () => {
    const { data, database, say } = await makeData();
    await say('before');
    await makeCopy(data, database, at(1));
    await say('after');
    await database.close();
    const [copy] = await listCopies(data);
    const aside = await putBack(data, copy!, at(2));
    expect(await wordsIn(databaseFolder(data))).toEqual(['before']);
    expect(await wordsIn(aside!)).toEqual(['after', 'before']);
  });

  it('are listed and put back by one command', async () => {
    const { data, database, say } = await makeData();
    await say('kept');
    await makeCopy(data, database, at(1));
    await database.close();
    rmSync(databaseFolder(data), { recursive: true });
    const restore = (...args: string[]) =>
      execFileSync(process.execPath, ['--import', 'tsx', 'scripts/restore.ts', ...args], {
        encoding: 'utf8',
        env: { ...process.env, LINSTOCK_DATA: data },
        stdio: ['ignore', 'pipe', 'pipe'],
      });
    expect(restore()).toMatch(/1 {2}0?1\/10\/2026/);
    expect(() => restore('7')).toThrow(/There is no copy 7/);
    expect(restore('1')).toMatch(/is in its place/);
    expect(await wordsIn(databaseFolder(data))).toEqual(['kept']);
  });

  it('are made before a database that holds something is changed', async () => {
    const folder = makeFolder();
    const database = await openEmbedded(null);
    const changes: string[] = [];
    const bring = () =>
      migrate(database, folder, () => {
        changes.push(readdirSync(folder).at(-1) ?? '');
        return Promise.resolve();
      });
    writeFileSync(path.join(folder, '0001_first.sql'), 'CREATE TABLE a (id integer);');
    await bring();
    await bring();
    expect(changes).toEqual([]);
    writeFileSync(path.join(folder, '0002_second.sql'), 'CREATE TABLE b (id integer);');
    await bring();
    expect(changes).toEqual(['0002_second.sql']);
    await database.close();
  });

  it('are named where the database cannot be opened', async () => {
    const { data, database } = await makeData();
    await database.close();
    const inside = (name: string) => path.join(databaseFolder(data), name);
    rmSync(inside('global'), { recursive: true });
    mkdirSync(inside('global'));
    await expect(openEmbedded(databaseFolder(data))).rejects.toThrow(/cannot be opened.*linstock restore/);
    expect(existsSync(inside('PG_VERSION'))).toBe(true);
  });
});
