import { mkdirSync, mkdtempSync, realpathSync, symlinkSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { beforeAll, describe, expect, it } from 'vitest';
import { searchPaths } from './searchPaths.ts';

const folder = realpathSync(mkdtempSync(path.join(tmpdir(), 'linstock-search-')));
const at = (...parts: string[]) => path.join(folder, ...parts);
const never = new AbortController().signal;

async function namesOf(typed: readonly string[], subfolders = true): Promise<string[]> {
  const found = await searchPaths([folder], typed, subfolders, never);
  return found.map((file) => `${path.relative(folder, file.path)}${file.problem ? ` (${file.problem.code})` : ''}`);
}

beforeAll(() => {
  mkdirSync(at('season', 'deeper', 'deepest'), { recursive: true });
  for (const name of ['film 10.mov', 'film 2.mov', '.hidden.mov', 'film 2.srt'])
    writeFileSync(at('season', name), name);
  writeFileSync(at('season', 'deeper', 'deepest', 'last.mov'), 'last');
  symlinkSync(at('season'), at('season', 'deeper', 'round again'));
  symlinkSync(at('season', 'film 2.mov'), at('same.mov'));
});

describe('looking through folders', () => {
  it('finds files in the order of their names, captions and hidden files aside', async () => {
    expect(await namesOf([at('season')], false)).toEqual([
      'season/film 2.mov',
      'season/film 2.srt (caption-file)',
      'season/film 10.mov',
    ]);
  });

  it('goes into folders inside folders when asked, and round no loop', async () => {
    expect(await namesOf([at('season')])).toEqual([
      'season/deeper/deepest/last.mov',
      'season/film 2.mov',
      'season/film 2.srt (caption-file)',
      'season/film 10.mov',
    ]);
  });

  it('counts a file once, whichever way it is named', async () => {
    expect(await namesOf([at('same.mov'), at('season', 'film 2.mov')])).toEqual(['season/film 2.mov']);
  });

  it('lists what is outside the media folders or not there, and goes on', async () => {
    const names = await namesOf(['/etc/hostname', at('gone.mov'), at('season', 'film 10.mov')]);
    expect(names[0]).toMatch(/hostname \(outside-media-folders\)$/);
    expect(names.slice(1)).toEqual(['gone.mov (file-not-found)', 'season/film 10.mov']);
  });

  it('ends when it is stopped', async () => {
    await expect(searchPaths([folder], [at('season')], true, AbortSignal.abort())).rejects.toThrow();
  });
});
