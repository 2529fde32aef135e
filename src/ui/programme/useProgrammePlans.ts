import { useMemo } from 'react';
import type { AnalysisView, PortionView, ProgrammeView } from '../../contract/views.ts';
import type { Advisory } from '../../core/advice/advisory.ts';
import type { Recipe } from '../../core/recipe/recipe.ts';
import { useSettledSize } from '../hooks/trialQueries.ts';
import { useOrderPlans, type OrderPlan } from '../hooks/useOrderPlans.ts';

/** What the order would make of each portion, or of the whole, and all that should be known of programme and order. */
export function useProgrammePlans(
  programme: ProgrammeView,
  recipe: Recipe,
  portions: readonly PortionView[],
  current: PortionView | null,
  analysis: AnalysisView | undefined,
): {
  /** null is the whole programme. */
  readonly wanted: readonly (PortionView | null)[];
  readonly plans: readonly OrderPlan[];
  /** The one the budget is shown for. */
  readonly shown: OrderPlan | undefined;
  readonly advisories: readonly Advisory[];
  /** Why it is this frame size, where the order leaves it open and it was measured. */
  readonly sizeReason: string | null;
} {
  const wanted: readonly (PortionView | null)[] = useMemo(() => (portions.length > 0 ? portions : [null]), [portions]);
  const settled = useSettledSize(programme.id, recipe, current);
  const plans = useOrderPlans(programme, settled.recipe, wanted, analysis ?? null);
  const shown = plans[Math.max(0, wanted.indexOf(current))] ?? plans[0];
  const ofPlan = shown?.outcome.ok ? shown.outcome.plan.advisories : [];
  return { wanted, plans, shown, sizeReason: settled.reason, advisories: [...(analysis?.advisories ?? []), ...ofPlan] };
}
