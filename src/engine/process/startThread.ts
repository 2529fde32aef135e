import { Worker } from 'node:worker_threads';

/** A thread does not inherit what lets this process read TypeScript, and has to be given it first. */
const starter = (file: URL): string => `import('tsx/esm/api').then(({ register }) => {
  register();
  return import(${JSON.stringify(file.href)});
});`;

/**
 * Runs a file in a thread of its own.
 *
 * @param data - What the file finds as its worker data.
 */
export function startThread(file: URL, data: unknown): Worker {
  return new Worker(starter(file), { eval: true, workerData: data });
}
