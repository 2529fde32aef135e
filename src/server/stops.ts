import type { BatchView } from '../contract/batch.ts';
import type { RenditionView } from '../contract/views.ts';
import { getBatch } from './batches/batches.ts';
import { findUnderway, stopOrdering } from './batches/stopBatch.ts';
import type { Context } from './context.ts';
import type { Scheduler } from './jobs/scheduler.ts';
import { stopRendition } from './renditions/renditions.ts';
import { clearUp } from './runner/runRendition.ts';

/** Stopping what was ordered. */
export interface Stops {
  /** @returns The rendition; one that has ended stays as it is. */
  stopRendition(id: string): Promise<RenditionView>;
  /** Stops all of a batch that is still to come. */
  stopBatch(id: string): Promise<BatchView>;
}

/** What is stopped is taken out of the queue first, and then work on it is ended, here or wherever it is done. */
export function createStops(context: Context, scheduler: Scheduler): Stops {
  const end = async (id: string) => {
    const rendition = await stopRendition(context, id);
    // One that waits may have been begun before; the runner clears up after one that runs.
    if (!(await scheduler.end('rendition', id))) await clearUp(context, rendition);
    return rendition;
  };
  return {
    stopRendition: end,
    stopBatch: async (id) => {
      await getBatch(context, id);
      await stopOrdering(context, id);
      await scheduler.end('batch', id);
      for (const rendition of await findUnderway(context, id)) await end(rendition);
      context.events.publish({ type: 'batch', id });
      return getBatch(context, id);
    },
  };
}
