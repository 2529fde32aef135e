/** Work that several may ask for at once: it is done once, and ended when the last of them went away. */
export interface SharedWork<Result> {
  /**
   * @param make - Called for the first who asks; its signal fires when nobody wants the result any more.
   * @param signal - Of the one who asks.
   */
  ask(key: string, make: (signal: AbortSignal) => Promise<Result>, signal: AbortSignal): Promise<Result>;
}

interface Underway<Result> {
  readonly result: Promise<Result>;
  readonly abort: AbortController;
  askers: number;
}

export function createSharedWork<Result>(): SharedWork<Result> {
  const underway = new Map<string, Underway<Result>>();
  const begin = (key: string, make: (signal: AbortSignal) => Promise<Result>): Underway<Result> => {
    const abort = new AbortController();
    const result = make(abort.signal).finally(() => {
      if (underway.get(key) === work) underway.delete(key);
    });
    const work: Underway<Result> = { result, abort, askers: 0 };
    underway.set(key, work);
    return work;
  };
  return {
    ask: (key, make, signal) => {
      signal.throwIfAborted();
      const work = underway.get(key) ?? begin(key, make);
      work.askers += 1;
      return new Promise<Result>((resolve, reject) => {
        const leave = () => {
          work.askers -= 1;
          if (work.askers === 0) {
            // Whoever comes next begins anew, instead of joining what is being ended.
            if (underway.get(key) === work) underway.delete(key);
            work.abort.abort(signal.reason);
          }
          reject(signal.reason as Error);
        };
        signal.addEventListener('abort', leave, { once: true });
        work.result.then(resolve, reject).finally(() => signal.removeEventListener('abort', leave));
      });
    },
  };
}
