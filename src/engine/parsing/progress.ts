/** One report of a running engine. */
export interface EngineProgress {
  readonly frame: number;
  readonly framesPerSecond: number | null;
  readonly outSeconds: number | null;
}

/**
 * Collects `key=value` lines and gives a report at the end of each block.
 *
 * @param onReport - Called once a block; `out_time_ms` is really microseconds, so `out_time_us` is read.
 * @returns A function taking one line at a time.
 */
export function createProgressReader(onReport: (progress: EngineProgress) => void): (line: string) => void {
  let fields = new Map<string, string>();
  return (line) => {
    const cut = line.indexOf('=');
    if (cut < 1) return;
    const key = line.slice(0, cut);
    fields.set(key, line.slice(cut + 1).trim());
    if (key !== 'progress') return;
    onReport({
      frame: numberOr(fields.get('frame'), 0) ?? 0,
      framesPerSecond: numberOr(fields.get('fps'), null),
      outSeconds: scaled(numberOr(fields.get('out_time_us'), null)),
    });
    fields = new Map();
  };
}

/**
 * Tells the lines that show an encoder getting on from those it also writes while standing still.
 *
 * @returns A function that answers true for a frame or a time further on than the last.
 */
export function createAdvanceWatch(): (line: string) => boolean {
  const furthest = new Map<string, number>();
  return (line) => {
    const [key = '', value] = line.split('=', 2);
    if (key !== 'frame' && key !== 'out_time_us') return false;
    const now = numberOr(value?.trim(), 0) ?? 0;
    if (now <= (furthest.get(key) ?? 0)) return false;
    furthest.set(key, now);
    return true;
  };
}

function numberOr(text: string | undefined, otherwise: number | null): number | null {
  const value = Number(text);
  return text !== undefined && text !== '' && Number.isFinite(value) ? value : otherwise;
}

function scaled(microseconds: number | null): number | null {
  return microseconds === null ? null : microseconds / 1e6;
}
