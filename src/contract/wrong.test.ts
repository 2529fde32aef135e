import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Schema } from 'yup';
import { STARTING_RECIPE } from '../core/recipe/recipe.ts';
import { STOCK_BRIEFS } from '../core/brief/stockBriefs.ts';
import { batchRequestSchema } from './batch.ts';
import { portionsSchema } from './portion.ts';
import { queueChangeSchema } from './queue.ts';
import { renditionRequestSchema } from './recipe.ts';
import { newBriefSchema, newRecipeSchema } from './shelf.ts';
import { soundingRequestSchema } from './sounding.ts';
import { parseWith } from './strictObject.ts';
import { trialRequestSchema } from './trial.ts';

const SPAN = { inFrame: 0, outFrame: 99 };
const CURVE = { codec: 'h264', width: 640, height: 360, qualities: [20, 30] };

/** What is asked for, in full. */
const ASKED: Readonly<Record<string, readonly [Schema, unknown]>> = {
  order: [renditionRequestSchema, { programmeId: 'a', recipe: STARTING_RECIPE, portion: SPAN, keepFailed: true }],
  trial: [trialRequestSchema, { programmeId: 'a', recipe: STARTING_RECIPE, grid: [CURVE], pinned: [SPAN] }],
  sounding: [soundingRequestSchema, { codec: 'h264', width: 640, height: 360, portion: SPAN }],
  batch: [batchRequestSchema, { programmeIds: ['a', 'b'], recipes: [STARTING_RECIPE], together: { bytes: 1e6 } }],
  portions: [portionsSchema, [{ ...SPAN, name: 'one' }]],
  queue: [queueChangeSchema, { atOnce: 1, hours: { from: '23:00', to: '07:00' } }],
  recipe: [newRecipeSchema, { name: 'n', recipe: STARTING_RECIPE, notes: 'n', tags: ['t'] }],
  brief: [newBriefSchema, { name: 'n', brief: STOCK_BRIEFS[0]?.brief }],
};

const ODD = [null, true, -1, 0, 1.5, 1e308, '', 'x', '__proto__', [], {}, [null], { a: 1 }, '9'.repeat(400)];

type Place = readonly (string | number)[];

function placesIn(value: unknown, at: Place = []): Place[] {
  const entries = value !== null && typeof value === 'object' ? Object.entries(value) : [];
  return [at, ...entries.flatMap(([key, inner]) => placesIn(inner, [...at, key]))];
}

/** The same with something else at one place, or nothing. */
function spoil(value: unknown, [key, ...rest]: Place, odd: unknown): unknown {
  if (key === undefined) return odd;
  const change = ([name, inner]: [string, unknown]) => [name, name === String(key) ? spoil(inner, rest, odd) : inner];
  const entries = Object.entries(value as object).map(change);
  if (Array.isArray(value)) return entries.map(([, inner]) => inner);
  return Object.fromEntries(entries.filter(([, inner]) => inner !== undefined));
}

describe.each(Object.entries(ASKED))('what is asked wrongly of %s', (_name, [schema, asked]) => {
  it('is taken as it should be', () => {
    expect(parseWith(schema, asked)).toMatchObject({ ok: true });
  });

  it('is told in sentences, whatever it is', () => {
    const places = placesIn(asked);
    fc.assert(
      fc.property(fc.constantFrom(...places), fc.constantFrom(undefined, ...ODD), (place, odd) => {
        const parsed = parseWith(schema, spoil(asked, place, odd));
        const messages = parsed.ok ? [] : parsed.faults.map(({ message }) => message);
        expect(messages.filter((message) => /undefined|NaN|\[object|must be a `/.test(message))).toEqual([]);
      }),
      { numRuns: 300, seed: 11 },
    );
  });
});
