import { readdir, readFile } from 'node:fs/promises';
import { cpus } from 'node:os';

/** In which `/proc` counts (proc(5)): a hundredth of a second on Linux. */
const TICK_MS = 10;

/** What a process and what it started took, in milliseconds of a core. */
interface Taken {
  readonly busyMs: number;
  readonly allMs: number;
  readonly ownMs: number;
}

/**
 * Tells what share of all cores others than this process and its children took since it was asked last.
 *
 * @returns A function that answers from 0 to 1; where the system does not tell, 1, as if it were in use.
 */
export function createOtherLoad(): () => Promise<number> {
  let before: Taken | null = null;
  return async () => {
    const now = await measure();
    const since = before;
    before = now;
    if (!since || !now || now.allMs <= since.allMs) return 1;
    const others = now.busyMs - since.busyMs - (now.ownMs - since.ownMs);
    return Math.max(0, Math.min(1, others / (now.allMs - since.allMs)));
  };
}

async function measure(): Promise<Taken | null> {
  const own = await readTimes('self');
  if (!own) return null;
  const times = cpus().map(({ times: { user, nice, sys, irq, idle } }) => ({ busy: user + nice + sys + irq, idle }));
  const busyMs = times.reduce((sum, { busy }) => sum + busy, 0);
  const children = await Promise.all((await readdir('/proc')).filter((name) => /^\d+$/.test(name)).map(readTimes));
  const living = children.reduce((sum, one) => sum + (one?.parent === process.pid ? one.ticks : 0), 0);
  return {
    busyMs,
    allMs: busyMs + times.reduce((sum, { idle }) => sum + idle, 0),
    ownMs: (own.ticks + own.endedTicks + living) * TICK_MS,
  };
}

/** A process's own time, that of its children that ended, and who started it; null for one that is gone. */
async function readTimes(pid: string): Promise<{ parent: number; ticks: number; endedTicks: number } | null> {
  const text = await readFile(`/proc/${pid}/stat`, 'utf8').catch(() => '');
  const fields = text
    .slice(text.lastIndexOf(')') + 2)
    .split(' ')
    .map(Number);
  if (fields.length < 16) return null;
  const [parent = 0, user = 0, system = 0, endedUser = 0, endedSystem = 0] = [1, 11, 12, 13, 14].map(
    (index) => fields[index] ?? 0,
  );
  return { parent, ticks: user + system, endedTicks: endedUser + endedSystem };
}
