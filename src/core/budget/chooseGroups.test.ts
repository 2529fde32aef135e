import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { chooseGroups, type GroupVersion } from './chooseGroups.ts';

/** The versions of each group, from the sizes of each pass's groups. */
function versionsOf(passes: readonly (readonly number[])[]): GroupVersion<number>[][] {
  return (passes[0] ?? []).map((_, group) =>
    passes.map((sizes, source) => ({ source, bytes: sizes[group]!, loss: 1 / sizes[group]! })),
  );
}

/** Every way to choose, for lists short enough. */
function bestByTrying(passes: readonly (readonly number[])[], room: number): number | null {
  const sums = (passes[0] ?? []).reduce<number[]>(
    (before, _, group) => before.flatMap((sum) => passes.map((groups) => sum + (groups[group] ?? 0))),
    [0],
  );
  const fitting = sums.filter((sum) => sum <= room);
  return fitting.length > 0 ? Math.max(...fitting) : null;
}

describe('groups of several passes', () => {
  it('fill the room as well as any way of choosing does', () => {
    const sizes = (count: number) => fc.array(fc.integer({ min: 1, max: 999 }), { minLength: count, maxLength: count });
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 6 }).chain((count) => fc.array(sizes(count), { minLength: 1, maxLength: 3 })),
        fc.integer({ min: 0, max: 5000 }),
        (passes, room) => {
          const choice = chooseGroups(versionsOf(passes), room);
          const fullest = bestByTrying(passes, room);
          expect(choice === null).toBe(fullest === null);
          if (!choice) return;
          // What fills the room as good as wholly may lose less than what fills it to the byte.
          expect(choice.bytes).toBeGreaterThanOrEqual(Math.min(fullest!, room * 0.998));
          expect(choice.bytes).toBeLessThanOrEqual(room);
          const sum = choice.sources.reduce((total, pass, group) => total + (passes[pass]?.[group] ?? 0), 0);
          expect(sum).toBe(choice.bytes);
        },
      ),
      { seed: 3 },
    );
  });

  it('fill the cap to a thousandth or two over two hours, between a pass just over and one just under', () => {
    const random = mulberry(11);
    const over = Array.from({ length: 1440 }, () => Math.round(100_000 * (0.5 + random())));
    const under = over.map((size) => Math.round(size * (0.93 + 0.06 * random())));
    const total = (groups: readonly number[]) => groups.reduce((sum, size) => sum + size, 0);
    const room = Math.round((total(over) + total(under)) / 2);
    const choice = chooseGroups(versionsOf([over, under]), room);
    expect(choice!.bytes).toBeLessThanOrEqual(room);
    expect(choice!.bytes).toBeGreaterThan(room * 0.998);
  });

  it('may have more versions of one than of another', () => {
    const one = [{ source: 'pass', bytes: 60, loss: 1 }];
    const other = [...one, { source: 'again', bytes: 39, loss: 2 }];
    expect(chooseGroups([one, other], 100)).toEqual({ sources: ['pass', 'again'], bytes: 99 });
  });

  it('lose as little as they can where several fill the room', () => {
    const hard = [
      { source: 'coarse', bytes: 500, loss: 90 },
      { source: 'fine', bytes: 600, loss: 60 },
    ];
    const easy = [
      { source: 'coarse', bytes: 400, loss: 4 },
      { source: 'fine', bytes: 500, loss: 3 },
    ];
    expect(chooseGroups([hard, easy], 1000)?.sources).toEqual(['fine', 'coarse']);
  });

  it('are refused where none fits, or there are none', () => {
    expect(chooseGroups([[{ source: 0, bytes: 101, loss: 1 }]], 100)).toBeNull();
    expect(chooseGroups([], 100)).toBeNull();
  });
});

/** A small seeded random source (mulberry32, public domain). */
function mulberry(seed: number): () => number {
  let state = seed;
  return () => {
    state = (state + 0x6d2b79f5) | 0;
    let mixed = Math.imul(state ^ (state >>> 15), 1 | state);
    mixed = (mixed + Math.imul(mixed ^ (mixed >>> 7), 61 | mixed)) ^ mixed;
    return ((mixed ^ (mixed >>> 14)) >>> 0) / 4294967296;
  };
}
