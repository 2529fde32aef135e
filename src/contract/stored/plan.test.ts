import { describe, expect, it } from 'vitest';
import { planRendition } from '../../core/plan/planRendition.ts';
import { STARTING_RECIPE } from '../../core/recipe/recipe.ts';
import { clockOf, factsOf } from '../../testing/facts.ts';
import { readPlan } from './plan.ts';

const FACTS = factsOf();
const request = { facts: FACTS, clock: clockOf(FACTS), recipe: STARTING_RECIPE, portion: null, sounding: null };
const outcome = planRendition({ ...request, encoders: ['h264', 'aac'] });
if (!outcome.ok) throw new Error(outcome.problems[0]?.message);
const { plan } = outcome;

describe('a stored plan', () => {
  it('is read as it was written', () => {
    expect(readPlan(JSON.parse(JSON.stringify(plan)))).toEqual(JSON.parse(JSON.stringify(plan)));
  });

  it('of version 3 had sounds of one track each', () => {
    const streams = plan.streams.map((one) => (one.kind === 'sound' ? { ...one, from: one.from[0] } : one));
    const stored: unknown = JSON.parse(JSON.stringify({ ...plan, version: 3, streams }));
    expect(readPlan(stored)).toEqual(JSON.parse(JSON.stringify(plan)));
  });

  it('of version 4 counted keyframes besides in the programme', () => {
    const marked = (keyframesAt: readonly number[], inFrame: number) =>
      plan.streams.map((one) =>
        one.kind === 'picture' ? { ...one, from: { ...one.from, inFrame }, do: { ...one.do, keyframesAt } } : one,
      );
    const stored: unknown = JSON.parse(JSON.stringify({ ...plan, version: 4, streams: marked([140, 180], 100) }));
    expect(readPlan(stored)).toEqual(JSON.parse(JSON.stringify({ ...plan, streams: marked([40, 80], 100) })));
  });

  it('of no known version is not read', () => {
    expect(() => readPlan({ ...plan, version: 99 })).toThrow('version');
  });
});
