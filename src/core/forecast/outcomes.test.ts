import { describe, expect, it } from 'vitest';
import { barOf, type Outcome } from './outcomes.ts';

const off = (log: number): Outcome => ({ foreseen: 1e6, error: 0.02, bytes: 1e6 * Math.exp(log) });
const SAID = 0.02 * 1.645;

describe('an error bar', () => {
  it('is as told while nothing was proved', () => {
    expect(barOf(SAID, [])).toBe(SAID);
  });

  it('widens where results lay further out, the more the more there are', () => {
    const few = barOf(SAID, [off(0.1), off(-0.1)]);
    const many = barOf(
      SAID,
      Array.from({ length: 40 }, (_, index) => off(index % 2 ? 0.1 : -0.1)),
    );
    expect(few).toBeGreaterThan(SAID);
    expect(many).toBeGreaterThan(few);
    expect(many).toBeLessThan(0.1);
  });

  it('narrows where they lay nearer, and minds one in ten that did not', () => {
    const near = Array.from({ length: 30 }, () => off(0.005));
    expect(barOf(SAID, near)).toBeLessThan(SAID);
    expect(barOf(SAID, [...near, off(0.5)])).toBeLessThan(SAID);
  });
});
