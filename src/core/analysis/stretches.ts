import type { Portion } from '../programme/facts.ts';

/**
 * Runs of consecutive positions that pass a test.
 *
 * @param length - Positions from 0 to length − 1.
 * @param least - Shorter runs are left out.
 * @returns In order; the out position is included.
 */
export function findRuns(length: number, passes: (position: number) => boolean, least: number): Portion[] {
  const runs: Portion[] = [];
  let begin: number | null = null;
  for (let position = 0; position <= length; position += 1) {
    const isInside = position < length && passes(position);
    if (isInside) begin ??= position;
    else if (begin !== null) {
      if (position - begin >= least) runs.push({ inFrame: begin, outFrame: position - 1 });
      begin = null;
    }
  }
  return runs;
}
