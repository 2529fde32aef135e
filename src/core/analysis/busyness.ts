import type { Findings } from './conclude.ts';

/**
 * How busy a stretch of a programme is: bits of the analysis' own encode of it.
 *
 * @param from - In seconds from the programme's beginning.
 * @param to - Likewise; steps that lie in the stretch in part count in part.
 */
export function bitsBetween(
  { stepSeconds, bits }: NonNullable<Findings['busyness']>,
  from: number,
  to: number,
): number {
  let sum = 0;
  for (let step = Math.max(0, Math.floor(from / stepSeconds)); step < bits.length; step += 1) {
    const [start, end] = [Math.max(from, step * stepSeconds), Math.min(to, (step + 1) * stepSeconds)];
    if (end <= start) break;
    sum += (bits[step]! * (end - start)) / stepSeconds;
  }
  return sum;
}
