import { readdirSync, readFileSync } from 'node:fs';
import type { Hold } from './hold.ts';

/** Bytes moved between two looks that count as work: reports of progress are far less. */
const WORKING_BYTES = 1_000_000;

/** Of the time it was silent: a child that stood in line for a processor so long was kept from working, and does not hang. */
const KEPT_SHARE = 0.5;

/** Whether a child still lives, as far as can be told from outside. */
export interface LifeWatch {
  readonly hear: () => void;
  readonly end: () => void;
  readonly isBroken: () => boolean;
}

/** How long a child may be. */
export interface LifeLimits {
  /** Without a sign of life: something heard of it, or many bytes read and written. */
  readonly silenceLimitMs?: number;
  /** In all. */
  readonly timeLimitMs?: number;
  /** What stands still is not silent. */
  readonly hold?: Hold;
}

/**
 * Watches a child.
 *
 * @param limits - Without any nothing is watched.
 * @param onBroken - Called once when one is broken.
 */
export function watchLife(
  pid: number | undefined,
  { silenceLimitMs, timeLimitMs, hold }: LifeLimits,
  onBroken: () => void,
): LifeWatch {
  let isBroken = false;
  let moved = 0;
  let kept = 0;
  const give = () => {
    isBroken = true;
    onBroken();
  };
  const judge = (limitMs: number) => {
    const [movedNow, keptNow] = [bytesMoved(pid), longestKept(pid)];
    const isWorking = movedNow - moved >= WORKING_BYTES;
    const wasKept = keptNow - kept >= (KEPT_SHARE * limitMs) / 1000;
    [moved, kept] = [movedNow, keptNow];
    if (isWorking || wasKept || hold?.isHeld()) silence?.refresh();
    else give();
  };
  // What was just let go on gets its whole time again.
  const unsubscribe = hold?.onChange(() => void silence?.refresh());
  const silence = silenceLimitMs === undefined ? null : setTimeout(judge, silenceLimitMs, silenceLimitMs);
  const limit = timeLimitMs === undefined ? null : setTimeout(give, timeLimitMs);
  return {
    hear: () => void silence?.refresh(),
    end: () => {
      unsubscribe?.();
      if (silence) clearTimeout(silence);
      if (limit) clearTimeout(limit);
    },
    isBroken: () => isBroken,
  };
}

/** Bytes a process has read and written so far, as the kernel counts them; 0 where it does not say. */
function bytesMoved(pid: number | undefined): number {
  try {
    const text = readFileSync(`/proc/${pid}/io`, 'utf8');
    return Array.from(text.matchAll(/^[rw]char: (\d+)$/gm)).reduce((sum, [, count]) => sum + Number(count), 0);
  } catch {
    return 0;
  }
}

/**
 * Seconds that thread of a process stood in line for a processor so far which stood longest, as the kernel counts them
 * (Linux, Documentation/scheduler/sched-stats: second number of schedstat, in nanoseconds); 0 where it does not say.
 */
function longestKept(pid: number | undefined): number {
  try {
    const folder = `/proc/${pid}/task`;
    const keptOf = (thread: string) =>
      Number(readFileSync(`${folder}/${thread}/schedstat`, 'utf8').split(' ')[1]) / 1e9;
    return Math.max(...readdirSync(folder).map(keptOf));
  } catch {
    return 0;
  }
}
