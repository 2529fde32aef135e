import type { QueueSettings, WorkLeft } from '../../contract/queue.ts';
import type { MachineSpeeds } from '../../core/forecast/encodeTime.ts';
import type { EncodeKind } from '../../core/forecast/encodeWork.ts';
import { sumWork, type WorkSum } from '../../core/forecast/workLeft.ts';
import { secondsUntilDone } from '../../core/queue/finish.ts';
import { minuteOfDay } from '../../core/queue/openHours.ts';
import * as statements from '../../store/statements/renditions.ts';
import type { Context } from '../context.ts';
import { readQueueSettings } from '../line/queueSettings.ts';
import { viewSpeeds } from './speeds.ts';

interface LeftRow extends Record<string, unknown> {
  readonly programme_id: string;
  readonly kind: EncodeKind | null;
  readonly is_foreseen: boolean;
  /** Those that do not say themselves how long they will take, and of them those whose work was not kept yet. */
  readonly renditions: number;
  readonly unkept: number;
  readonly work: number | null;
  readonly masters: number | null;
  /** Seconds that those that run say are left. */
  readonly seconds: number;
  readonly paused: number;
}

/**
 * What the queue has left to do: all of it, or all that comes until a batch is done.
 *
 * @returns null where nothing runs and nothing waits.
 */
export async function viewWorkLeft(context: Context, batchId: string | null): Promise<WorkLeft | null> {
  const rows = await context.database.query<LeftRow>(statements.WORK_LEFT, [batchId]);
  if (rows.length === 0) return null;
  const sum = sumRows(rows, await viewSpeeds(context));
  const paused = rows.reduce((total, row) => total + row.paused, 0);
  return whenDone(context, await readQueueSettings(context), { ...sum, paused });
}

/** The same of work that would be put at the end of the queue; what stands still there goes on beside it, or not at all. */
export async function viewWorkWith(context: Context, more: WorkSum, speeds: MachineSpeeds): Promise<WorkLeft> {
  const rows = await context.database.query<LeftRow>(statements.WORK_LEFT, [null]);
  const there = sumRows(rows, speeds);
  const sum = { seconds: there.seconds + more.seconds, unknown: there.unknown + more.unknown, paused: 0 };
  return whenDone(context, await readQueueSettings(context), sum);
}

function sumRows(rows: readonly LeftRow[], speeds: MachineSpeeds): WorkSum {
  const waiting = rows.map(
    ({ programme_id: programmeId, kind, is_foreseen: isForeseen, renditions, unkept, work, masters }) => ({
      ...{ programmeId, kind, isForeseen, renditions: renditions - unkept, work: work ?? 0, masters: masters ?? 0 },
    }),
  );
  const { seconds, unknown } = sumWork(waiting, speeds);
  const running = rows.reduce((sum, row) => sum + row.seconds, 0);
  const unkept = rows.reduce((sum, row) => sum + row.unkept, 0);
  return { seconds: seconds + running, unknown: unknown + unkept };
}

/** Nobody knows when a queue is done that was stopped, of which some stands still, or that waits until a machine is left alone. */
function whenDone(
  context: Context,
  { paused, whenIdle, hours, atOnce }: QueueSettings,
  sum: Omit<WorkLeft, 'doneAt'>,
): WorkLeft {
  const now = context.now();
  const secondOfDay = minuteOfDay(now) * 60 + now.getSeconds();
  const seconds = sum.seconds / atOnce;
  const until = secondsUntilDone(seconds, secondOfDay, hours);
  const isKnown = !paused && !whenIdle && sum.paused === 0;
  return { ...sum, doneAt: isKnown ? new Date(now.getTime() + until * 1000).toISOString() : null };
}
