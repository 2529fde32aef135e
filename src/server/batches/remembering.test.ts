import { describe, expect, it, vi } from 'vitest';
import type { Query } from '../../store/database.ts';
import type { Context } from '../context.ts';
import { remembering } from './remembering.ts';

describe('work that only reads', () => {
  it('asks the database the same once, also while the answer is underway, and anew in the next work', async () => {
    const asked = vi.fn((text: string, values: readonly unknown[] = []) => Promise.resolve([{ text, of: values[0] }]));
    const context = { database: { kind: 'embedded', query: asked as Query } } as unknown as Context;
    const { query } = remembering(context).database;
    const [one, same, other] = await Promise.all([query('A', [1]), query('A', [1]), query('A', [2])]);
    expect(await query('A', [1])).toEqual(one);
    expect([one, same, other]).toEqual([[{ text: 'A', of: 1 }], [{ text: 'A', of: 1 }], [{ text: 'A', of: 2 }]]);
    expect(asked).toHaveBeenCalledTimes(2);
    await remembering(context).database.query('A', [1]);
    expect(asked).toHaveBeenCalledTimes(3);
  });
});
