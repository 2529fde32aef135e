import type { WorkLeft } from '../../contract/queue.ts';
import { count } from './count.ts';
import { formatWait } from './format.ts';

const HOUR = { weekday: 'short', hour: '2-digit', minute: '2-digit', hour12: false } as const;

/** How much work is left, as far as it is known. */
export function sayLeft({ seconds, unknown, paused }: WorkLeft): string {
  const files = [
    ...(unknown > 0 ? [`${count(unknown, 'file', 'files')} of a kind not made yet`] : []),
    ...(paused > 0 ? [`${count(paused, 'file that stands', 'files that stand')} still`] : []),
  ];
  return [...(seconds > 0 || files.length === 0 ? [formatWait(seconds)] : []), ...files].join(' and ');
}

/**
 * By when work will be done; empty while that cannot be said.
 *
 * @param from - From when on, as it reads after a comma.
 */
export function sayWhenDone({ doneAt, unknown }: WorkLeft, from?: string): string {
  if (doneAt === null || unknown > 0) return '';
  const done = `done by ${new Date(doneAt).toLocaleString('en', HOUR)}`;
  return from ? `${done}, ${from}` : done;
}
