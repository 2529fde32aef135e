/**
 * Runs in a thread of its own, for one pair of files after another: is told what their pictures are like, takes their bytes,
 * answers how many it is done with, and at the end what it found.
 */
import { parentPort } from 'node:worker_threads';
import { createPairReader, type PairReader } from '../../core/quality/pairReader.ts';
import type { PairShape } from '../../core/quality/samples.ts';

type Message = { readonly shape: PairShape } | Uint8Array | null;

let reader: PairReader | null = null;

parentPort?.on('message', (message: Message) => {
  if (message === null) {
    parentPort?.postMessage({ found: reader?.finish() ?? [] });
    reader = null;
  } else if ('shape' in message) {
    reader = createPairReader(message.shape);
  } else {
    reader?.take(message);
    parentPort?.postMessage({ done: message.length });
  }
});
