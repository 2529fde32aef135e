import { useState } from 'react';
import { useHotkeys } from 'react-hotkeys-hook';
import { useRouter } from 'next/navigation';
import { toast } from 'sonner';
import type { ProgrammeView, RenditionView } from '../../contract/views.ts';
import { BudgetBar } from '../budget/BudgetBar.tsx';
import { ApiError } from '../hooks/api.ts';
import { useOrder } from '../hooks/queries.ts';
import { useOrderDraft } from '../hooks/useOrderDraft.ts';
import { Button } from '../kit/Button.tsx';
import { Notice } from '../kit/Notice.tsx';
import { FineControl } from '../order/FineControl.tsx';
import { OrderLine } from '../order/OrderLine.tsx';

interface Props {
  readonly programme: ProgrammeView;
  readonly renditions: readonly RenditionView[];
}

/** The order for a new rendition: the sentence, what it will weigh, and the key that queues it. */
export function OrderSection({ programme, renditions }: Props) {
  const draft = useOrderDraft(programme);
  const { recipe, change, outcome } = draft;
  const [name, setName] = useState<string | null>(null);
  const [keepFailed, setKeepFailed] = useState(false);
  const order = useOrder();
  const router = useRouter();
  const queue = () => {
    if (!outcome.ok || order.isPending) return;
    order.mutate(
      { programmeId: programme.id, recipe, name, keepFailed },
      { onSuccess: (rendition) => void toast(`Queued: ${rendition.name}`) },
    );
  };
  useHotkeys('q', queue, [recipe, outcome, name, keepFailed, order.isPending]);
  useHotkeys('mod+z', draft.undo, { preventDefault: true });
  useHotkeys('mod+shift+z, mod+y', draft.redo, { preventDefault: true });
  useHotkeys('v', () => {
    const newest = renditions.filter((one) => one.state === 'done').at(-1);
    if (newest) router.push(`/desk/${newest.id}`);
  });
  const { video } = recipe;
  const onCap =
    video?.rate.mode === 'size'
      ? (bytes: number) => change({ ...recipe, video: { ...video, rate: { mode: 'size', bytes } } })
      : undefined;
  return (
    <section aria-labelledby="order-heading" className="mt-7">
      <h2 id="order-heading" className="mb-1 text-lg font-semibold">
        A new rendition
      </h2>
      <OrderLine programme={programme} recipe={recipe} change={change} problems={outcome.ok ? [] : outcome.problems} />
      <FineControl
        recipe={recipe}
        change={change}
        name={name}
        onName={setName}
        keepFailed={keepFailed}
        onKeepFailed={setKeepFailed}
      />
      {outcome.ok ? (
        <BudgetBar plan={outcome.plan} isSounding={draft.isSounding} onCap={onCap} />
      ) : (
        <div className="mt-4 max-w-[60rem]" role="alert">
          {outcome.problems.map((problem) => (
            <Notice key={problem.code} kind="wrong">
              {problem.message}
            </Notice>
          ))}
        </div>
      )}
      {outcome.ok && (
        <div className="mt-3 max-w-[60rem] space-y-1">
          {outcome.plan.advisories.map((advisory) => (
            <Notice key={advisory.code} kind={advisory.severity}>
              {advisory.message}
            </Notice>
          ))}
        </div>
      )}
      <div className="mt-4 flex items-center gap-4">
        <Button look="main" hotkey="Q" disabled={!outcome.ok || order.isPending} onClick={queue}>
          Queue it
        </Button>
        {order.error && (
          <span role="alert" className="text-wrong">
            {order.error instanceof ApiError ? order.error.body.message : 'It could not be queued.'}
          </span>
        )}
      </div>
    </section>
  );
}
