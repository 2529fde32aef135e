import { describe, expect, it } from 'vitest';
import { orderKey } from './orderKey.ts';
import { STARTING_RECIPE } from './recipe.ts';

describe('the key of an order', () => {
  it('is the same whatever the order of its keys, and another for anything that differs', () => {
    const { name, ...rest } = STARTING_RECIPE;
    const key = orderKey(STARTING_RECIPE, null);
    expect(orderKey({ ...rest, name }, null)).toBe(key);
    expect(key).toMatch(/^[0-9a-f]{16}$/);
    const others = [
      orderKey(STARTING_RECIPE, { inFrame: 0, outFrame: 9 }),
      orderKey(STARTING_RECIPE, { inFrame: 0, outFrame: 10 }),
      orderKey({ ...STARTING_RECIPE, name: 'Other' }, null),
      orderKey({ ...STARTING_RECIPE, video: { ...STARTING_RECIPE.video, effort: 'fast' } }, null),
    ];
    expect(new Set([key, ...others]).size).toBe(5);
  });
});
