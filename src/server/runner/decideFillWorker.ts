/** Runs in a thread of its own: one decision, then it ends. */
import { parentPort, workerData } from 'node:worker_threads';
import { decideFill, type Fill } from '../../core/budget/fillCap.ts';

parentPort?.postMessage(decideFill(workerData as Fill));
