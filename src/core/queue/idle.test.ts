import { describe, expect, it } from 'vitest';
import { IN_USE, lookForIdleness, type Idleness } from './idle.ts';

const after = (shares: readonly number[], from: Idleness = IN_USE) =>
  shares.reduce((state, share) => lookForIdleness(state, share, 5), from);
const repeat = (share: number, times: number) => Array.from({ length: times }, () => share);

describe('an idle machine', () => {
  it('has been quiet for a minute', () => {
    expect(after(repeat(0.02, 11)).isIdle).toBe(false);
    expect(after(repeat(0.02, 12)).isIdle).toBe(true);
    expect(after([...repeat(0.02, 11), 0.5, ...repeat(0.02, 11)]).isIdle).toBe(false);
  });

  it('is in use again after ten busy seconds, and not after a moment or a little', () => {
    const idle = after(repeat(0, 12));
    expect(after([0.9], idle).isIdle).toBe(true);
    expect(after([0.9, 0.9], idle).isIdle).toBe(false);
    expect(after(repeat(0.2, 20), idle).isIdle).toBe(true);
  });
});
