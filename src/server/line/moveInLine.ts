import * as jobs from '../../store/statements/jobs.ts';
import type { Context } from '../context.ts';
import { Refusal } from '../refusal.ts';

/**
 * Puts waiting renditions, in the order they have among each other, at a place among the others that wait, from 0.
 *
 * @throws Refusal where none of them waits.
 */
export async function moveInLine(context: Context, ids: readonly string[], place: number): Promise<void> {
  await context.database.transaction(async (query) => {
    const waiting = await query<WaitingJob>(jobs.WAITING_JOBS, ['rendition']);
    const wanted = new Set(ids);
    const moved = waiting.filter(({ subject }) => wanted.has(subject));
    const [first] = moved;
    if (!first) {
      const which =
        ids.length === 1
          ? 'This rendition waits no more: it was begun, or has ended.'
          : 'None of these waits any more.';
      throw new Refusal('not-found', which);
    }
    const others = waiting.filter(({ subject }) => !wanted.has(subject));
    // They stand among those of their new neighbour; positions are dealt out anew.
    const priority = others[place]?.priority ?? others.at(-1)?.priority ?? first.priority;
    const order = [...others.slice(0, place), ...moved.map((one) => ({ ...one, priority })), ...others.slice(place)];
    const positions = waiting.map(({ position }) => position).sort((one, other) => one - other);
    const list = (values: readonly number[]) => values.join(',');
    await query(jobs.REORDER_JOBS, [
      list(order.map((one) => one.id)),
      list(order.map((one) => one.priority)),
      list(positions),
    ]);
  });
  context.events.publish({ type: 'queue' });
}

interface WaitingJob extends Record<string, unknown> {
  readonly id: number;
  readonly subject: string;
  readonly priority: number;
  readonly position: number;
}
