import { mkdtempSync, readdirSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { describe, expect, it } from 'vitest';
import { createDiskCache } from './diskCache.ts';

const asker = new AbortController().signal;
const freshFolder = () => path.join(mkdtempSync(path.join(tmpdir(), 'linstock-cache-')), 'pictures');

describe('a cache on disk', () => {
  it('makes a thing once, also for those who ask at the same time, and keeps it over a restart', async () => {
    const folder = freshFolder();
    let made = 0;
    const make = () => {
      made += 1;
      return Promise.resolve(Buffer.from('a picture'));
    };
    const cache = createDiskCache(folder, 'png', 1e6, () => new Date());
    const got = await Promise.all([1, 2, 3].map(() => cache.get({ frame: 7 }, make, asker)));
    expect(got.map(String)).toEqual(['a picture', 'a picture', 'a picture']);
    const again = createDiskCache(folder, 'png', 1e6, () => new Date());
    await again.get({ frame: 7 }, make, asker);
    expect(made).toBe(1);
    await again.get({ frame: 8 }, make, asker);
    expect(made).toBe(2);
    expect(readdirSync(folder).every((name) => name.endsWith('.png'))).toBe(true);
  });

  it('keeps nothing of what failed, and tries again', async () => {
    const cache = createDiskCache(freshFolder(), 'png', 1e6, () => new Date());
    await expect(cache.get('x', () => Promise.reject(new Error('no frame')), asker)).rejects.toThrow('no frame');
    expect(String(await cache.get('x', () => Promise.resolve(Buffer.from('now')), asker))).toBe('now');
  });

  it('gives up what was used longest ago once it is full', async () => {
    const folder = freshFolder();
    let seconds = 0;
    const cache = createDiskCache(folder, 'bin', 50_000, () => new Date(2026, 9, 2, 0, 0, (seconds += 1)));
    const thing = () => Promise.resolve(Buffer.alloc(1000));
    for (let key = 0; key < 99; key += 1) await cache.get(key, thing, asker);
    let remade = 0;
    const watch = () => {
      remade += 1;
      return thing();
    };
    // The hundredth tidies up: half of them go.
    await cache.get(99, thing, asker);
    expect(readdirSync(folder)).toHaveLength(50);
    await cache.get(99, watch, asker);
    expect(remade).toBe(0);
  });

  it('ends work only when the last who asked went away, and begins anew for whoever comes then', async () => {
    const cache = createDiskCache(freshFolder(), 'png', 1e6, () => new Date());
    const gone = [new AbortController(), new AbortController()];
    let ended = 0;
    const hang = (signal: AbortSignal) =>
      new Promise<Buffer>((_resolve, reject) => {
        signal.addEventListener('abort', () => {
          ended += 1;
          reject(signal.reason as Error);
        });
      });
    const asked = gone.map(({ signal }) => cache.get('slow', hang, signal).catch((error: Error) => error.message));
    await new Promise((resolve) => setTimeout(resolve, 20));
    gone[0]?.abort(new Error('first left'));
    expect(await asked[0]).toBe('first left');
    expect(ended).toBe(0);
    gone[1]?.abort(new Error('second left'));
    expect(await asked[1]).toBe('second left');
    expect(ended).toBe(1);
    expect(String(await cache.get('slow', () => Promise.resolve(Buffer.from('quick')), asker))).toBe('quick');
  });
});
