import type { decideFill, Fill, FillDecision } from '../../core/budget/fillCap.ts';
import { startThread } from '../../engine/process/startThread.ts';

/** Below so many groups of pictures a decision takes a few milliseconds, less than handing it over. */
const FEW_GROUPS = 60;

/**
 * Decides how a size is filled next, away from the thread that answers requests: choosing among the groups of a long
 * programme takes most of a second (measured at 720 groups), and is done after every encode.
 *
 * @throws What the decision throws.
 */
export async function decideInWorker(decide: typeof decideFill, fill: Fill): Promise<FillDecision> {
  if ((fill.passes[0]?.groups.length ?? 0) < FEW_GROUPS) return decide(fill);
  const worker = startThread(new URL('./decideFillWorker.ts', import.meta.url), fill);
  return new Promise((resolve, reject) => {
    worker.once('message', resolve);
    worker.once('error', reject);
    worker.once('exit', () => reject(new Error('The decision was not made.')));
  });
}
