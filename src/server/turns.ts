/** Lets so many pieces of work go on at a time; the others wait in line. */
export interface Turns {
  /**
   * Does a piece of work when its turn comes.
   *
   * @param signal - Whoever no longer wants it leaves the line; without one, nobody leaves.
   */
  take<Result>(work: () => Promise<Result>, signal?: AbortSignal): Promise<Result>;
}

/**
 * Opens a line.
 *
 * @param atOnce - Pieces of work side by side.
 */
export function createTurns(atOnce: number): Turns {
  const line: (() => void)[] = [];
  let underway = 0;

  const enter = (signal: AbortSignal | undefined): Promise<void> => {
    signal?.throwIfAborted();
    if (underway < atOnce) {
      underway += 1;
      return Promise.resolve();
    }
    return new Promise((resolve, reject) => {
      const proceed = () => {
        signal?.removeEventListener('abort', leave);
        resolve();
      };
      const leave = () => {
        line.splice(line.indexOf(proceed), 1);
        reject(signal?.reason as Error);
      };
      line.push(proceed);
      signal?.addEventListener('abort', leave, { once: true });
    });
  };
  return {
    take: async (work, signal) => {
      await enter(signal);
      try {
        return await work();
      } finally {
        const next = line.shift();
        // The turn is handed on; nobody in between can take it. Not before whatever came in meanwhile was looked at: the
        // embedded database answers without ever leaving the thread, so a long line would otherwise be one long wait.
        if (next) setImmediate(next);
        else underway -= 1;
      }
    },
  };
}
