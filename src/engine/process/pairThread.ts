/**
 * Runs in a thread of its own, for one master and its results after another: is told what their pictures are like and from which pipe
 * they come, reads them to its end, and answers what it found.
 */
import { closeSync, openSync, readSync } from 'node:fs';
import { parentPort } from 'node:worker_threads';
import { createPairReader, type PairMeasures } from '../../core/quality/pairReader.ts';
import type { PairShape } from '../../core/quality/samples.ts';

/** What the thread is asked for. */
export interface PairsToRead {
  readonly pipe: string;
  readonly shape: PairShape;
  /** How many are held against the master. */
  readonly results: number;
}

/** What it answers: that the pipe is open, and in the end what was found. */
export type PairsAnswer = 'open' | { readonly found: readonly (readonly PairMeasures[])[] };

const answer = (message: PairsAnswer) => parentPort?.postMessage(message);

parentPort?.on('message', ({ pipe, shape, results }: PairsToRead) => {
  const reader = createPairReader(shape, results);
  const file = openSync(pipe, 'r');
  answer('open');
  for (let count = readSync(file, reader.next()); count > 0; count = readSync(file, reader.next())) reader.took(count);
  closeSync(file);
  answer({ found: reader.finish() });
});
