import type { BriefItem } from '../../contract/shelf.ts';
import { ceilingsOf, type Ceiling } from '../../core/brief/ceilings.ts';
import { ratedVideo, type Recipe } from '../../core/recipe/recipe.ts';
import type { OrderPlan } from '../hooks/useOrderPlans.ts';
import { count } from '../kit/count.ts';

/** The cap each rendition is held to; null where none is. */
export function capOf(recipe: Recipe): number | null {
  const rate = ratedVideo(recipe)?.rate;
  return rate?.mode === 'size' ? rate.bytes : null;
}

/** Likely bytes of all of them; null while one is not known, as whether a cap will be filled before it was measured. */
export function sumExpected(plans: readonly Pick<OrderPlan, 'outcome' | 'measurement'>[]): number | null {
  const sizes = plans.map(({ outcome, measurement }) => {
    if (!outcome.ok) return undefined;
    const { binds, expected } = outcome.plan.budget;
    return binds === 'cap' && measurement.state === 'underway' ? undefined : expected?.likely;
  });
  return sizes.every((size) => size !== undefined) ? sizes.reduce((sum, size) => sum + size, 0) : null;
}

/** Why a size is not known, and what would make it known. */
export function explainUnknown({ measurement }: Pick<OrderPlan, 'measurement'>): string {
  switch (measurement.state) {
    case 'underway':
      return measurement.ahead === 0
        ? 'being measured …'
        : `measured after ${count(measurement.ahead, 'other', 'others')}`;
    case 'failed':
      return measurement.message;
    case 'none':
    case 'known':
      return 'not measured';
  }
}

/** What the receiver's limits come to for a file of this order; none where it is for nobody, or cannot be made. */
export function shownCeilings(brief: BriefItem | null, shown: Pick<OrderPlan, 'outcome'> | undefined): Ceiling[] {
  if (!brief || !shown?.outcome.ok) return [];
  const { span, budget } = shown.outcome.plan;
  return ceilingsOf(brief.brief, span.seconds, budget.split.audio + budget.split.container);
}
