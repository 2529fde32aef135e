import { useMemo, useState } from 'react';
import { useRouter } from 'next/navigation';
import { toast } from 'sonner';
import type { PortionView, ProgrammeView, RenditionView } from '../../contract/views.ts';
import type { PlanOutcome } from '../../core/rate/planRendition.ts';
import type { Recipe } from '../../core/rate/recipe.ts';
import { BudgetBar } from '../budget/BudgetBar.tsx';
import { ApiError } from '../hooks/api.ts';
import { useOrder, useStrips } from '../hooks/queries.ts';
import { useOrderPlans, type OrderPlan } from '../hooks/useOrderPlans.ts';
import { useActKey } from '../hooks/useWorkKey.ts';
import { Button } from '../kit/Button.tsx';
import { Notice } from '../kit/Notice.tsx';
import { FineControl } from '../order/FineControl.tsx';
import { OrderLine } from '../order/OrderLine.tsx';
import { PortionGlance } from '../portion/PortionGlance.tsx';

interface Props {
  readonly programme: ProgrammeView;
  readonly renditions: readonly RenditionView[];
  readonly recipe: Recipe;
  readonly change: (recipe: Recipe) => void;
  readonly portions: readonly PortionView[];
  /** The portion the budget is shown for; null for the whole programme. */
  readonly current: PortionView | null;
}

/** The order for new renditions: the sentence, what they will weigh, and the key that queues them. */
export function OrderSection({ programme, renditions, recipe, change, portions, current }: Props) {
  const shown = useMemo(() => [current], [current]);
  const [{ outcome, measurement }] = useOrderPlans(programme, recipe, shown) as [OrderPlan];
  const isSounding = measurement.state === 'underway';
  const [name, setName] = useState<string | null>(null);
  const [keepFailed, setKeepFailed] = useState(false);
  const order = useOrder();
  const { data: strips } = useStrips(programme.id);
  const router = useRouter();
  const isReady = outcome.ok && !order.isPending && programme.master === 'there';
  const queue = async () => {
    if (!isReady) return;
    const wanted = portions.length > 0 ? portions : [null];
    for (const [index, portion] of wanted.entries()) {
      const ownName = name !== null && portion && wanted.length > 1 ? numbered(name, index + 1) : name;
      const span = portion && { inFrame: portion.inFrame, outFrame: portion.outFrame };
      const request = { programmeId: programme.id, recipe, portion: span, name: ownName, keepFailed };
      const rendition = await order.mutateAsync(request).catch(() => null);
      // The reason stands beside the button; what was queued before it stays.
      if (!rendition) return;
      toast(`Queued: ${rendition.name}`);
    }
  };
  useActKey('q', () => void queue());
  useActKey('v', () => {
    const newest = renditions.filter((one) => one.state === 'done').at(-1);
    if (newest) router.push(`/desk/${newest.id}`);
  });
  return (
    <section aria-labelledby="order-heading" className="mt-7">
      <h2 id="order-heading" className="mb-1 text-lg font-semibold">
        {portions.length > 1 ? 'New renditions' : 'A new rendition'}
      </h2>
      <OrderLine programme={programme} recipe={recipe} change={change} problems={outcome.ok ? [] : outcome.problems} />
      <FineControl
        programme={programme}
        problemOf={(field) => (outcome.ok ? undefined : outcome.problems.find((one) => one.field === field)?.message)}
        recipe={recipe}
        change={change}
        name={name}
        onName={setName}
        keepFailed={keepFailed}
        onKeepFailed={setKeepFailed}
      />
      <Outcome outcome={outcome} isSounding={isSounding} recipe={recipe} change={change} />
      <div className="mt-4 flex items-center gap-5">
        <Button look="main" hotkey="Q" disabled={!isReady} onClick={() => void queue()}>
          {portions.length > 1 ? `Queue all ${portions.length}` : 'Queue it'}
        </Button>
        <div className="space-y-1">
          {(portions.length > 0 ? portions : [null]).map((portion) => (
            <PortionGlance key={portion?.id ?? 'whole'} programme={programme} portion={portion} strips={strips} />
          ))}
        </div>
        {order.error && (
          <span role="alert" className="text-wrong">
            {order.error instanceof ApiError ? order.error.body.message : 'It could not be queued.'}
          </span>
        )}
      </div>
    </section>
  );
}

interface OutcomeProps {
  readonly outcome: PlanOutcome;
  readonly isSounding: boolean;
  readonly recipe: Recipe;
  readonly change: (recipe: Recipe) => void;
}

/** What the order would weigh and what should be known about it, or all that stands in its way. */
function Outcome({ outcome, isSounding, recipe, change }: OutcomeProps) {
  if (!outcome.ok) {
    return (
      <div className="mt-4 max-w-[60rem]" role="alert">
        {outcome.problems.map((problem) => (
          <Notice key={problem.code} kind="wrong">
            {problem.message}
          </Notice>
        ))}
      </div>
    );
  }
  return (
    <>
      <BudgetBar plan={outcome.plan} isSounding={isSounding} recipe={recipe} change={change} />
      <div className="mt-3 max-w-[60rem] space-y-1">
        {outcome.plan.advisories.map((advisory) => (
          <Notice key={advisory.code} kind={advisory.severity}>
            {advisory.message}
          </Notice>
        ))}
      </div>
    </>
  );
}

/** `film.mp4` for the second portion is `film 2.mp4`. */
function numbered(name: string, number: number): string {
  const dot = name.lastIndexOf('.');
  return dot > 0 ? `${name.slice(0, dot)} ${number}${name.slice(dot)}` : `${name} ${number}`;
}
