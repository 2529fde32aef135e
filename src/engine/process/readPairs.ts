import type { Readable } from 'node:stream';
import type { PairMeasures } from '../../core/quality/pairReader.ts';
import type { PairShape } from '../../core/quality/samples.ts';
import { startThread } from './startThread.ts';

/** Bytes that may wait for the thread before the engine is made to wait. */
const MOST_WAITING = 32_000_000;

type Answer = { readonly done: number } | { readonly found: readonly PairMeasures[] };

/**
 * Measures pictures that the engine writes, away from the thread that answers requests.
 *
 * @param stream - Result and master in turn, in 4:2:0 of the shape’s depth.
 * @returns One entry a pair, once the stream has ended.
 */
export function readPairs(stream: Readable, shape: PairShape): Promise<readonly PairMeasures[]> {
  const thread = startThread(new URL('./pairThread.ts', import.meta.url), shape);
  let waiting = 0;
  stream.on('data', (chunk: Buffer) => {
    // A view of a pool’s buffer would take the pool along.
    const bytes = new Uint8Array(chunk);
    waiting += bytes.length;
    thread.postMessage(bytes, [bytes.buffer]);
    if (waiting > MOST_WAITING) stream.pause();
  });
  stream.once('close', () => thread.postMessage(null));
  return new Promise((resolve, reject) => {
    thread.on('message', (answer: Answer) => {
      if ('found' in answer) return resolve(answer.found);
      waiting -= answer.done;
      if (waiting < MOST_WAITING / 2) stream.resume();
    });
    thread.once('error', reject);
    thread.once('exit', () => reject(new Error('The pictures were not measured.')));
  });
}
