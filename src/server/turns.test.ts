import { describe, expect, it } from 'vitest';
import { createTurns } from './turns.ts';

const never = new AbortController().signal;

function makeWork() {
  const begun: number[] = [];
  const ends: (() => void)[] = [];
  const work = (number: number) => () => {
    begun.push(number);
    return new Promise<number>((resolve) => ends.push(() => resolve(number)));
  };
  return { begun, ends, work };
}
const oneRound = () => new Promise((resolve) => setImmediate(resolve));
/** A turn is handed on a round later. */
const settle = () => oneRound().then(oneRound);

describe('turns', () => {
  it('lets so many go on at a time, in the order they came', async () => {
    const turns = createTurns(2);
    const { begun, ends, work } = makeWork();
    const all = [1, 2, 3, 4].map((number) => turns.take(work(number), never));
    await settle();
    expect(begun).toEqual([1, 2]);
    ends[0]?.();
    await settle();
    expect(begun).toEqual([1, 2, 3]);
    ends[1]?.();
    ends[2]?.();
    await settle();
    ends[3]?.();
    expect(await Promise.all(all)).toEqual([1, 2, 3, 4]);
  });

  it('lets whoever gave up leave the line', async () => {
    const turns = createTurns(1);
    const { begun, ends, work } = makeWork();
    const gone = new AbortController();
    const first = turns.take(work(1), never);
    const second = turns.take(work(2), gone.signal);
    const third = turns.take(work(3), never);
    gone.abort(new Error('gone'));
    await expect(second).rejects.toThrow('gone');
    ends[0]?.();
    await settle();
    expect(begun).toEqual([1, 3]);
    ends[1]?.();
    expect(await Promise.all([first, third])).toEqual([1, 3]);
  });

  it('lets others in between two turns', async () => {
    const turns = createTurns(1);
    let done = 0;
    const all = Array.from({ length: 10 }, () => turns.take(() => Promise.resolve((done += 1))));
    await settle();
    expect(done).toBeLessThan(10);
    await Promise.all(all);
    expect(done).toBe(10);
  });

  it('goes on after work that failed', async () => {
    const turns = createTurns(1);
    await expect(turns.take(() => Promise.reject(new Error('bad')), never)).rejects.toThrow('bad');
    expect(await turns.take(() => Promise.resolve('good'), never)).toBe('good');
  });
});
