import { useRef } from 'react';
import { toast } from 'sonner';
import type { PortionView, ProgrammeView, RenditionSummary } from '../../contract/views.ts';
import { numberName } from '../../core/naming/outputName.ts';
import { orderKey } from '../../core/recipe/orderKey.ts';
import type { Recipe } from '../../core/recipe/recipe.ts';
import { ApiError } from '../hooks/api.ts';
import { useOrder } from '../hooks/queries.ts';

interface Wanted {
  readonly programme: ProgrammeView;
  readonly renditions: readonly RenditionSummary[];
  readonly recipe: Recipe;
  /** For which receiver. */
  readonly briefId: string | null;
  /** null for the whole programme. */
  readonly wanted: readonly (PortionView | null)[];
  readonly name: string | null;
  readonly keepFailed: boolean;
}

/**
 * Queues what is ordered: said at once, once a press however slow the server is. What waits already is asked about
 * before it is queued a second time.
 */
export function useQueueing({ programme, renditions, recipe, briefId, wanted, name, keepFailed }: Wanted) {
  const order = useOrder();
  /** Known before the page is drawn again: a second press may come sooner. */
  const isUnderway = useRef(false);
  const send = async () => {
    if (isUnderway.current) return;
    isUnderway.current = true;
    const notice = toast.loading('Queueing …');
    const names: string[] = [];
    try {
      for (const [index, portion] of wanted.entries()) {
        const ownName = name !== null && wanted.length > 1 ? numberName(name, index + 1) : name;
        const span = portion && { inFrame: portion.inFrame, outFrame: portion.outFrame, name: portion.name };
        const request = { programmeId: programme.id, recipe, portion: span, name: ownName, keepFailed, briefId };
        names.push((await order.mutateAsync(request)).name);
      }
      toast.success(names.length === 1 ? `Queued: ${names[0]}` : `Queued: ${names.length} renditions`, { id: notice });
    } catch {
      // The reason stands beside the order; what was queued before it stays.
      toast.dismiss(notice);
    } finally {
      isUnderway.current = false;
    }
  };
  const queue = () => {
    const waiting = renditions.find(
      (one) => one.state === 'queued' && wanted.some((span) => one.orderKey === orderKey(recipe, span)),
    );
    if (!waiting) return void send();
    toast(`The same order is waiting already: ${waiting.name}`, {
      id: 'same-order',
      action: { label: 'Queue it again', onClick: () => void send() },
    });
  };
  const problem = order.error
    ? order.error instanceof ApiError
      ? order.error.body.message
      : 'It could not be queued.'
    : null;
  return { queue, isPending: order.isPending, problem };
}
