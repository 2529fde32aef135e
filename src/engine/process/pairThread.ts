/** Runs in a thread of its own: takes the bytes of pictures, answers how many it is done with, and at the end what it found. */
import { parentPort, workerData } from 'node:worker_threads';
import { createPairReader } from '../../core/quality/pairReader.ts';
import type { PairShape } from '../../core/quality/samples.ts';

const reader = createPairReader(workerData as PairShape);

parentPort?.on('message', (bytes: Uint8Array | null) => {
  if (bytes === null) {
    parentPort?.postMessage({ found: reader.finish() });
    parentPort?.close();
    return;
  }
  reader.take(bytes);
  parentPort?.postMessage({ done: bytes.length });
});
