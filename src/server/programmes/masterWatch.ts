import * as statements from '../../store/statements/programmes.ts';
import type { Context } from '../context.ts';
import { lookAtTheRest, noticeMaster, type MasterRow } from './masters.ts';

/** Masters that moved, changed or came back are noticed within this time. */
const WATCH_EVERY_MS = 5000;

/** Looks after masters in the background: what was never looked at, and what changes later. */
export function createMasterWatch(context: Context): { stop(): Promise<void> } {
  const stopping = new AbortController();
  let round: Promise<void> | null = null;

  const look = async () => {
    await lookAtTheRest(context, stopping.signal);
    for (const row of await context.database.query<MasterRow>(statements.LIST_MASTERS)) {
      if (stopping.signal.aborted) return;
      await noticeMaster(context, row);
    }
  };
  const begin = () => {
    round ??= look()
      .catch((error: unknown) => {
        if (!stopping.signal.aborted) context.logger.warn({ err: error }, 'the masters could not be looked after');
      })
      .finally(() => (round = null));
  };
  const timer = setInterval(begin, WATCH_EVERY_MS);
  begin();
  return {
    stop: async () => {
      clearInterval(timer);
      stopping.abort();
      await round;
    },
  };
}
