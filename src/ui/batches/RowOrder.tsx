import { useMemo } from 'react';
import type { ProgrammeView } from '../../contract/views.ts';
import type { Portion } from '../../core/programme/facts.ts';
import type { Recipe } from '../../core/recipe/recipe.ts';
import { useAnalysis, useProgramme } from '../hooks/queries.ts';
import { useOrderPlans } from '../hooks/useOrderPlans.ts';
import { Notice } from '../kit/Notice.tsx';
import { FineControl } from '../order/FineControl.tsx';
import { OrderLine } from '../order/OrderLine.tsx';
import { RecipeToken } from '../order/RecipeToken.tsx';

interface Props {
  readonly programmeId: string;
  readonly recipe: Recipe;
  readonly portion: Portion | null;
  readonly change: (recipe: Recipe) => void;
}

/** The order of one row of a batch, changed for that file alone. */
export function RowOrder({ programmeId, ...order }: Props) {
  const { data: programme } = useProgramme(programmeId);
  return programme ? <Order programme={programme} {...order} /> : <p className="text-quiet">Looking it up …</p>;
}

interface OrderProps extends Omit<Props, 'programmeId'> {
  readonly programme: ProgrammeView;
}

function Order({ programme, recipe, portion, change }: OrderProps) {
  const { data: analysis } = useAnalysis(programme.id);
  const portions = useMemo(() => [portion], [portion]);
  const [plan] = useOrderPlans(programme, recipe, portions, analysis ?? null);
  const problems = plan && !plan.outcome.ok ? plan.outcome.problems : [];
  return (
    <div className="border-ember mb-2 border-l-2 pl-3" data-testid="row-order">
      <p className="text-quiet text-sm">
        For this file alone, by <RecipeToken {...{ programme, recipe, change }} />:
      </p>
      <OrderLine {...{ programme, recipe, change, problems }} />
      {problems.map(({ code, message }) => (
        <Notice key={code} kind="wrong">
          {message}
        </Notice>
      ))}
      <FineControl
        {...{ programme, recipe, change }}
        problemOf={(field) => problems.find((one) => one.field === field)?.message}
      />
    </div>
  );
}
