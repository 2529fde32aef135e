import { QueryClient, QueryObserver } from '@tanstack/react-query';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { createPatientAsker } from './patientAsker.ts';

const KEY = ['slow'];

beforeEach(() => void vi.useFakeTimers());
afterEach(() => void vi.useRealTimers());

/** A page that shows an answer which takes five seconds to give. */
async function showSlowAnswer() {
  const client = new QueryClient();
  let asked = 0;
  const answer = () => {
    asked += 1;
    return new Promise<number>((resolve) => setTimeout(() => resolve(asked), 5000));
  };
  const leave = new QueryObserver(client, { queryKey: KEY, queryFn: answer }).subscribe(() => undefined);
  await vi.advanceTimersByTimeAsync(5000);
  return { client, leave, asked: () => asked };
}

describe('an answer that takes long', () => {
  it('is asked for once for all that happened in a while', async () => {
    const { client, leave, asked } = await showSlowAnswer();
    const ask = createPatientAsker(client, KEY);
    for (let happened = 0; happened < 30; happened += 1) ask();
    await vi.advanceTimersByTimeAsync(2000);
    expect(asked()).toBe(2);
    await vi.advanceTimersByTimeAsync(20_000);
    expect(asked()).toBe(2);
    leave();
  });

  it('is not asked for while it is underway, and once more for what happened meanwhile', async () => {
    const { client, leave, asked } = await showSlowAnswer();
    const ask = createPatientAsker(client, KEY);
    ask();
    await vi.advanceTimersByTimeAsync(2100);
    for (let second = 0; second < 4; second += 1) {
      ask();
      await vi.advanceTimersByTimeAsync(1000);
    }
    expect(asked()).toBe(2);
    await vi.advanceTimersByTimeAsync(4000);
    expect(asked()).toBe(3);
    await vi.advanceTimersByTimeAsync(20_000);
    expect(asked()).toBe(3);
    leave();
  });
});
