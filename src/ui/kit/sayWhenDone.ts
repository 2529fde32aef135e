import type { WorkLeft } from '../../contract/queue.ts';
import { count } from './count.ts';
import { formatWait } from './format.ts';

const HOUR = { weekday: 'short', hour: '2-digit', minute: '2-digit', hour12: false } as const;

/** How much work is left, as far as it is known. */
export function sayLeft({ seconds, unknown }: WorkLeft): string {
  if (unknown === 0) return formatWait(seconds);
  const rest = count(unknown, 'file', 'files');
  return seconds > 0 ? `${formatWait(seconds)} and ${rest} of a kind not made yet` : `${rest} of a kind not made yet`;
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
