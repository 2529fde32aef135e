import type { Readable } from 'node:stream';
import type { Worker } from 'node:worker_threads';
import type { PairMeasures } from '../../core/quality/pairReader.ts';
import type { PairShape } from '../../core/quality/samples.ts';
import { startThread } from './startThread.ts';

/** Bytes that may wait for the thread before the engine is made to wait. */
const MOST_WAITING = 32_000_000;

/** A thread without work is kept for the next pictures so long: starting one takes as long as measuring a short excerpt. */
const KEPT_MS = 20_000;

type Answer = { readonly done: number } | { readonly found: readonly PairMeasures[] };

/** Measures pictures away from the thread that answers requests. */
export interface PairThreads {
  /**
   * Takes pictures as the engine writes them.
   *
   * @param stream - Result and master in turn, in 4:2:0 of the shape’s depth.
   * @returns One entry a pair, once the stream has ended.
   */
  read(stream: Readable, shape: PairShape): Promise<readonly PairMeasures[]>;
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
    read: async (stream, shape) => {
      const thread = borrow();
      const found = await measureIn(thread, stream, shape);
      giveBack(thread);
      return found;
    },
  };
}

function measureIn(thread: Worker, stream: Readable, shape: PairShape): Promise<readonly PairMeasures[]> {
  let waiting = 0;
  thread.postMessage({ shape });
  stream.on('data', (chunk: Buffer) => {
    // A view of a pool’s buffer would take the pool along.
    const bytes = new Uint8Array(chunk);
    waiting += bytes.length;
    thread.postMessage(bytes, [bytes.buffer]);
    if (waiting > MOST_WAITING) stream.pause();
  });
  stream.once('close', () => thread.postMessage(null));
  return new Promise((resolve, reject) => {
    const hear = (answer: Answer) => {
      if ('done' in answer) {
        waiting -= answer.done;
        if (waiting < MOST_WAITING / 2) stream.resume();
        return;
      }
      thread.off('message', hear).off('error', reject).off('exit', leave);
      resolve(answer.found);
    };
    const leave = () => reject(new Error('The pictures were not measured.'));
    thread.on('message', hear).once('error', reject).once('exit', leave);
  });
}
