import { describe, expect, it } from 'vitest';
import { STARTING_RECIPE } from '../../core/recipe/recipe.ts';
import type { OrderPlan } from '../hooks/useOrderPlans.ts';
import { capOf, explainUnknown, sumExpected } from './orderSums.ts';

const planned = (likely: number | null, binds = 'quality', state = 'known') =>
  ({
    outcome: { ok: true, plan: { budget: { binds, expected: likely === null ? null : { likely } } } },
    measurement: { state, ahead: 1 },
  }) as OrderPlan;

describe('what several portions come to', () => {
  it('is their sum, once each is known', () => {
    expect(sumExpected([planned(3), planned(4)])).toBe(7);
    expect(sumExpected([planned(3), planned(null)])).toBeNull();
  });

  it('is not a cap before it was measured whether the picture needs it', () => {
    expect(sumExpected([planned(900, 'cap', 'underway')])).toBeNull();
    expect(sumExpected([planned(900, 'cap')])).toBe(900);
  });

  it('says what is waited for, and which cap holds', () => {
    expect(explainUnknown(planned(null, 'quality', 'underway'))).toBe('measured after 1 other');
    expect(capOf(STARTING_RECIPE)).toBeNull();
  });
});
