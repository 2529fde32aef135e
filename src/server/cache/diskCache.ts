import { mkdir, readdir, readFile, rename, rm, stat, utimes, writeFile } from 'node:fs/promises';
import { createHash } from 'node:crypto';
import path from 'node:path';
import { createSharedWork } from './sharedWork.ts';

const TIDY_EVERY = 100;

/** Things that can be made again, kept on disk; the least recently used go first. */
export interface DiskCache {
  /**
   * @param key - Whatever the thing depends on; written as JSON.
   * @param make - Called once for all who ask at the same time; its signal fires when none of them waits any more.
   * @param signal - Of the one who asks.
   */
  get(key: unknown, make: (signal: AbortSignal) => Promise<Buffer>, signal: AbortSignal): Promise<Buffer>;
}

/**
 * Opens a cache.
 *
 * @param extension - Of its files, for whoever looks into the folder.
 */
export function createDiskCache(folder: string, extension: string, limitBytes: number, now: () => Date): DiskCache {
  const shared = createSharedWork<Buffer>();
  let made = 0;

  const keep = async (file: string, content: Buffer): Promise<void> => {
    await mkdir(folder, { recursive: true });
    // A name of its own: whoever asked again after giving up may be writing the same at this moment.
    const temporary = `${file}.${(made += 1)}.new`;
    await writeFile(temporary, content);
    await rename(temporary, file);
    if (made % TIDY_EVERY === 0) await tidy(folder, limitBytes);
  };
  const fill = async (file: string, make: () => Promise<Buffer>): Promise<Buffer> => {
    const content = await make();
    // A full disk keeps nothing for the next look; this one is answered all the same.
    await keep(file, content).catch(() => undefined);
    return content;
  };
  return {
    get: async (key, make, asker) => {
      const name = createHash('sha256').update(JSON.stringify(key)).digest('hex');
      const file = path.join(folder, `${name}.${extension}`);
      const cached = await readFile(/* turbopackIgnore: true */ file).catch(() => null);
      if (cached) {
        await utimes(file, now(), now()).catch(() => undefined);
        return cached;
      }
      return shared.ask(name, (signal) => fill(file, () => make(signal)), asker);
    },
  };
}

/** Files of a folder beyond a limit go, the least recently used first. */
export async function tidy(folder: string, limitBytes: number): Promise<void> {
  const files = await Promise.all(
    (await readdir(folder).catch(() => [])).map(async (name) => {
      const file = path.join(folder, name);
      const facts = await stat(file).catch(() => null);
      return { file, bytes: facts?.size ?? 0, usedMs: facts?.mtimeMs ?? 0 };
    }),
  );
  let total = files.reduce((sum, { bytes }) => sum + bytes, 0);
  for (const { file, bytes } of files.toSorted((a, b) => a.usedMs - b.usedMs)) {
    if (total <= limitBytes) return;
    await rm(file, { force: true });
    total -= bytes;
  }
}
