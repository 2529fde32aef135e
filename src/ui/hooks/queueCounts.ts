import type { QueueView } from '../../contract/queue.ts';
import type { RenditionState } from '../../contract/views.ts';

/** One more in one state, and one less in another. */
export function recount(counts: QueueView['counts'], from?: RenditionState, to?: RenditionState): QueueView['counts'] {
  const add = (state: RenditionState | undefined, more: number) =>
    state ? { [state]: Math.max(0, (counts[state] ?? 0) + more) } : {};
  return from === to ? counts : { ...counts, ...add(from, -1), ...add(to, 1) };
}

/** Whether more wait than are shown. */
export function isPart(queue: Pick<QueueView, 'counts' | 'rows'> | undefined): boolean {
  return queue !== undefined && countAll(queue) > queue.rows.length;
}

/** All that run and wait. */
export function countAll({ counts }: Pick<QueueView, 'counts'>): number {
  return Object.values(counts).reduce((sum, count) => sum + count, 0);
}
