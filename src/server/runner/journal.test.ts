import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { describe, expect, it } from 'vitest';
import { openJournal } from './journal.ts';

function makeFolder() {
  const folder = mkdtempSync(path.join(tmpdir(), 'linstock-journal-'));
  const inFolder = (name: string) => path.join(folder, name);
  const done: string[] = [];
  const open = (key = 'order') => openJournal(inFolder('journal.json'), key);
  const encode = (journal: Awaited<ReturnType<typeof open>>, name: string, given: unknown = 1) =>
    journal.step(
      name,
      given,
      () => [inFolder(name)],
      () => {
        writeFileSync(inFolder(name), `made as ${JSON.stringify(given)}`);
        done.push(name);
        return Promise.resolve({ quantiser: 24.5 });
      },
    );
  return { inFolder, done, open, encode };
}

describe('the journal of a rendition', () => {
  it('hands over what an earlier attempt finished', async () => {
    const { done, open, encode, inFolder } = makeFolder();
    await encode(await open(), 'first');
    const next = await open();
    expect(await encode(next, 'first')).toEqual({ quantiser: 24.5 });
    await encode(next, 'second');
    expect(done).toEqual(['first', 'second']);
    expect((await open()).files()).toEqual([inFolder('first'), inFolder('second')]);
  });

  it('does a step again whose file is gone or another, that was asked otherwise, or that is of another order', async () => {
    const { done, open, encode, inFolder } = makeFolder();
    await encode(await open(), 'a');
    rmSync(inFolder('a'));
    await encode(await open(), 'a');
    writeFileSync(inFolder('a'), 'cut');
    await encode(await open(), 'a');
    await encode(await open(), 'a', { rate: 2 });
    await encode(await open('another order'), 'a', { rate: 2 });
    expect(done).toHaveLength(5);
  });

  it('notes nothing of a step that failed, and begins anew when it cannot be read', async () => {
    const { done, open, encode, inFolder } = makeFolder();
    const journal = await open();
    const failing = journal.step(
      'bad',
      1,
      () => [],
      () => Promise.reject(new Error('no')),
    );
    await expect(failing).rejects.toThrow('no');
    await encode(journal, 'good');
    writeFileSync(inFolder('journal.json'), '{"key":"order","steps":[{"na');
    await encode(await open(), 'good');
    expect(done).toEqual(['good', 'good']);
  });
});
