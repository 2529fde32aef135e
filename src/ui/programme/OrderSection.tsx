import { useRouter } from 'next/navigation';
import { useState } from 'react';
import type { PortionView, ProgrammeView, RenditionSummary } from '../../contract/views.ts';
import type { BriefItem } from '../../contract/shelf.ts';
import type { Fix } from '../../core/advice/advisory.ts';
import type { Recipe } from '../../core/recipe/recipe.ts';
import { fillsSize, renditionSize } from '../../core/recipe/recipe.ts';
import { fileKind } from '../../core/container/containers.ts';
import { nameFieldsOf } from '../../core/naming/nameFields.ts';
import { plainName, proposeOutputName } from '../../core/naming/outputName.ts';
import { pictureOf, type EncodePlan } from '../../core/plan/encodePlan.ts';
import { BudgetBar } from '../budget/BudgetBar.tsx';
import { useStrips } from '../hooks/queries.ts';
import type { OrderPlan } from '../hooks/useOrderPlans.ts';
import { useActKey } from '../hooks/useWorkKey.ts';
import { Notice } from '../kit/Notice.tsx';
import { formatBytes } from '../kit/format.ts';
import { describeRecipe } from '../../core/recipe/describeRecipe.ts';
import { FileSection } from '../order/FileSection.tsx';
import { FineControl } from '../order/FineControl.tsx';
import { OrderLine } from '../order/OrderLine.tsx';
import { OrderedPicture } from '../order/OrderedPicture.tsx';
import { StandingOrder } from '../order/StandingOrder.tsx';
import { PortionGlance } from '../portion/PortionGlance.tsx';
import { AdvisoryNotice } from './AdvisoryNotice.tsx';
import { capOf, explainUnknown, shownCeilings, sumExpected } from './orderSums.ts';
import { PlaysHere } from './PlaysHere.tsx';
import { RecipeBar } from './RecipeBar.tsx';
import { useQueueing } from './useQueueing.tsx';

interface Props {
  readonly programme: ProgrammeView;
  readonly renditions: readonly RenditionSummary[];
  readonly recipe: Recipe;
  readonly change: (recipe: Recipe) => void;
  /** Of the receiver it is for. */
  readonly brief: BriefItem | null;
  /** For another receiver, or for nobody; the order as it is bent to that. */
  readonly onBrief: (brief: BriefItem | null, bent: Recipe) => void;
  /** What a rendition is wanted of; null is the whole programme. */
  readonly wanted: readonly (PortionView | null)[];
  /** What each would be. */
  readonly plans: readonly OrderPlan[];
  /** The one the budget is shown for. */
  readonly shown: OrderPlan | undefined;
  /** Why it is that frame size, where it was left open and measured. */
  readonly sizeReason: string | null;
  /** At the playhead. */
  readonly frame: number;
  readonly numberOf: (fix: Fix) => number;
  readonly onFix: (fix: Fix) => void;
}

/** The order for new renditions: the sentence, what they will weigh, and the key that queues them. */
export function OrderSection(props: Props) {
  const { programme, renditions, recipe, change, brief, onBrief, wanted, plans, shown, sizeReason } = props;
  const [name, setName] = useState<string | null>(null);
  const [keepFailed, setKeepFailed] = useState(false);
  const router = useRouter();
  const isPossible = plans.every(({ outcome }) => outcome.ok) && programme.master === 'there';
  const { queue, isPending, problem } = useQueueing({
    ...{ programme, renditions, recipe, wanted, name, keepFailed },
    briefId: brief?.id ?? null,
  });
  const isReady = isPossible && !isPending;
  useActKey('q', () => isReady && queue());
  useActKey('v', () => {
    const newest = renditions.filter((one) => one.state === 'done').at(-1);
    if (newest) router.push(`/desk/${newest.id}`);
  });
  if (!shown) return null;
  const problems = shown.outcome.ok ? [] : shown.outcome.problems;
  const cap = capOf(recipe);
  return (
    <section aria-labelledby="order-heading" className="mt-7">
      <h2 id="order-heading" className="mb-1 text-lg font-semibold">
        {wanted.length > 1 ? `${wanted.length} new renditions` : 'A new rendition'}
      </h2>
      <RecipeBar
        {...{ programme, recipe, change, brief, onBrief }}
        seconds={shown.outcome.ok ? shown.outcome.plan.span.seconds : programme.durationSeconds}
      />
      <OrderLine programme={programme} recipe={recipe} change={change} problems={problems} />
      {recipe.picture.fit?.orSmaller && fillsSize(recipe) && (
        <p className="text-measured text-sm" data-testid="size-reason">
          {sizeReason ?? 'Which frame size looks best is measured on excerpts before it is encoded.'}
        </p>
      )}
      <FineControl
        programme={programme}
        problemOf={(field) => problems.find((one) => one.field === field)?.message}
        recipe={recipe}
        change={change}
      >
        <FileSection
          {...{
            name,
            proposed: shown.outcome.ok ? nameOf(props, shown.outcome.plan) : null,
            onName: setName,
            keepFailed,
            onKeepFailed: setKeepFailed,
          }}
        />
      </FineControl>
      <OrderedPicture programme={programme} recipe={recipe} isPossible={shown.outcome.ok} frame={props.frame} />
      <Outcome {...props} plan={shown} />
      <div className="mt-4 space-y-1">
        <WantedPortions {...{ programme, wanted, plans, cap }} />
        {problem && (
          <Notice kind="wrong" role="alert">
            {problem}
          </Notice>
        )}
      </div>
      <StandingOrder
        sentence={`${wanted.length > 1 ? `${wanted.length} × ` : ''}${describeRecipe(recipe, renditionSize(programme, recipe))}`}
        expected={sumExpected(plans)}
        cap={cap}
        standing={problems.length > 0 ? 'cannot be made so' : explainUnknown(shown)}
        label={isPending ? 'Queueing …' : wanted.length > 1 ? `Queue all ${wanted.length}` : 'Queue it'}
        isReady={isReady}
        onQueue={queue}
      />
    </section>
  );
}

/** What a file is called where no name is typed, unless that is taken. */
function nameOf({ programme, wanted, recipe, brief }: Props, plan: EncodePlan): string {
  const fields = nameFieldsOf(
    {
      programmeName: programme.name,
      portionName: wanted[0]?.name ?? null,
      recipeName: recipe.name,
      orderedOn: new Date().toLocaleDateString('sv'),
    },
    plan,
  );
  const { extension } = fileKind(plan.container, pictureOf(plan) !== null);
  const proposed = proposeOutputName(recipe.file.name, fields, extension);
  return brief?.brief.plainName ? plainName(proposed) : proposed;
}

interface WantedProps extends Pick<Props, 'programme' | 'wanted' | 'plans'> {
  readonly cap: number | null;
}

/** Each portion that is ordered with what it would weigh, and all of them together. */
function WantedPortions({ programme, wanted, plans, cap }: WantedProps) {
  const { data: strips } = useStrips(programme.id);
  return (
    <>
      {plans.map((plan, index) => (
        <div key={wanted[index]?.id ?? 'whole'} className="flex flex-wrap items-center gap-x-4">
          <PortionGlance programme={programme} portion={wanted[index] ?? null} strips={strips} />
          {wanted.length > 1 && (
            <span className="figure" data-testid="portion-expected">
              {wanted[index]?.name}: {expectedText(plan)}
            </span>
          )}
        </div>
      ))}
      {wanted.length > 1 && (
        <p data-testid="sum-expected">
          Together <span className="figure">{sumText(plans)}</span>
          {cap !== null && (
            <>
              ; the cap of <span className="figure">{formatBytes(cap)}</span> is for each of the {wanted.length}
            </>
          )}
          .
        </p>
      )}
    </>
  );
}

function expectedText(plan: OrderPlan): string {
  const { outcome } = plan;
  if (!outcome.ok) return 'cannot be made so';
  const expected = sumExpected([plan]);
  return expected === null ? explainUnknown(plan) : `≈ ${formatBytes(expected)}`;
}

function sumText(plans: readonly OrderPlan[]): string {
  const sum = sumExpected(plans);
  return sum === null ? 'not known yet' : `≈ ${formatBytes(sum)}`;
}

interface OutcomeProps extends Pick<Props, 'programme' | 'recipe' | 'change' | 'brief' | 'numberOf' | 'onFix'> {
  readonly plan: OrderPlan;
}

/** What the order would weigh and what should be known about it, or all that stands in its way. */
function Outcome({ programme, plan, recipe, change, brief, numberOf, onFix }: OutcomeProps) {
  const { outcome } = plan;
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
      <BudgetBar
        programmeId={programme.id}
        plan={outcome.plan}
        unknown={explainUnknown(plan)}
        isMeasured={plan.measurement.state !== 'underway'}
        recipe={recipe}
        change={change}
        ceilings={shownCeilings(brief, plan)}
      />
      <PlaysHere plan={outcome.plan} />
      <div className="mt-3 max-w-[60rem] space-y-1">
        {outcome.plan.advisories.map((advisory) => (
          <AdvisoryNotice
            key={advisory.code}
            advisory={advisory}
            number={advisory.fix ? numberOf(advisory.fix) : 0}
            onFix={onFix}
            onWithdraw={null}
          />
        ))}
      </div>
    </>
  );
}
