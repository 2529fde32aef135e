import type { Worker } from 'node:worker_threads';
import type { PairMeasures } from '../../core/quality/pairReader.ts';
import type { PairsAnswer, PairsToRead } from './pairThread.ts';
import { startThread } from './startThread.ts';

/** A thread without work is kept for the next pictures so long: starting one takes as long as measuring a short excerpt. */
const KEPT_MS = 20_000;

/** Measures pictures away from the thread that answers requests. */
export interface PairThreads {
  /**
   * Takes pictures as the engine writes them: those of all results and their master’s in turn, in 4:2:0 of the shape’s depth.
   *
   * @param request - From a named pipe; they have ended when nobody has it open any more who could write to it.
   */
  read(request: PairsToRead): PairsBeingRead;
}

/** Pictures on their way. */
export interface PairsBeingRead {
  /** Once the pipe is open at this end. */
  readonly open: Promise<void>;
  /** Of each result one entry a picture, once they have ended. */
  readonly found: Promise<readonly (readonly PairMeasures[])[]>;
}

/** Threads are started as they are needed, and end by themselves. */
export function createPairThreads(): PairThreads {
  const idle: Worker[] = [];
  const borrow = () => {
    const kept = idle.pop();
    kept?.ref();
    return kept ?? startThread(new URL('./pairThread.ts', import.meta.url), null);
  };
  const giveBack = (thread: Worker) => {
    thread.unref();
    idle.push(thread);
    setTimeout(() => {
      const at = idle.indexOf(thread);
      if (at < 0) return;
      idle.splice(at, 1);
      void thread.terminate();
    }, KEPT_MS).unref();
  };
  return {
    read: (request) => {
      const thread = borrow();
      const { open, found } = readIn(thread, request);
      const given = found.then((pairs) => {
        giveBack(thread);
        return pairs;
      });
      // Who waits for the pipe alone is told nothing of how it went on.
      given.catch(() => undefined);
      return { open, found: given };
    },
  };
}

function readIn(thread: Worker, request: PairsToRead): PairsBeingRead {
  let isOpen: () => void = () => undefined;
  const open = new Promise<void>((resolve) => (isOpen = resolve));
  const found = new Promise<readonly (readonly PairMeasures[])[]>((resolve, reject) => {
    const hear = (answer: PairsAnswer) => {
      if (answer === 'open') return isOpen();
      thread.off('message', hear).off('error', fail).off('exit', leave);
      resolve(answer.found);
    };
    const fail = (error: Error) => {
      // Who waits for the pipe goes on, and is told by what was found.
      isOpen();
      reject(error);
    };
    const leave = () => fail(new Error('The pictures were not measured.'));
    thread.on('message', hear).once('error', fail).once('exit', leave);
  });
  thread.postMessage(request);
  return { open, found };
}
