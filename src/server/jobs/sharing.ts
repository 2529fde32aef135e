import type { Lane } from './job.ts';

/** What is underway in one lane, seen beside the others. */
export interface Shared {
  /** Seconds so far in which work of another lane went on beside it. */
  besideSeconds(): number;
  leave(): void;
}

/**
 * Watches which lanes are at work at the same time: what shares the cores takes longer than it would by itself.
 *
 * @param now - Milliseconds that never go back.
 */
export function watchSharing(now: () => number = () => performance.now()): { enter(lane: Lane): Shared } {
  const present = new Set<{ readonly lane: Lane; ms: number }>();
  let since = now();
  const count = () => {
    const at = now();
    for (const one of present) {
      if ([...present].some(({ lane }) => lane !== one.lane)) one.ms += at - since;
    }
    since = at;
  };
  return {
    enter: (lane) => {
      count();
      const own = { lane, ms: 0 };
      present.add(own);
      return {
        besideSeconds: () => {
          count();
          return own.ms / 1000;
        },
        leave: () => {
          count();
          present.delete(own);
        },
      };
    },
  };
}
