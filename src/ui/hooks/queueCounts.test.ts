import { expect, it } from 'vitest';
import { countAll, isPart, recount } from './queueCounts.ts';

const COUNTS = { queued: 472, running: 1 };

it('counts what begins, ends and comes in', () => {
  expect(recount(COUNTS, 'queued', 'running')).toEqual({ queued: 471, running: 2 });
  expect(recount(COUNTS, 'running')).toEqual({ queued: 472, running: 0 });
  expect(recount(COUNTS, undefined, 'queued')).toEqual({ queued: 473, running: 1 });
  expect(recount(COUNTS, 'running', 'running')).toBe(COUNTS);
  expect(recount({}, 'checking')).toEqual({ checking: 0 });
});

it('tells whether more wait than are shown', () => {
  expect(countAll({ counts: COUNTS })).toBe(473);
  expect(isPart({ counts: COUNTS, rows: [] })).toBe(true);
  expect(isPart({ counts: {}, rows: [] })).toBe(false);
  expect(isPart(undefined)).toBe(false);
});
