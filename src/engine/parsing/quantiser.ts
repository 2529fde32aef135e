/**
 * The mean quantiser an encoder reports at its end, weighed by frames. Both write lines such as
 * `frame P:88 Avg QP:28.24`, with the count before the value.
 *
 * @param log - What the engine wrote to standard error.
 * @returns null when no such line is there.
 */
export function parseMeanQuantiser(log: string): number | null {
  let frames = 0;
  let sum = 0;
  for (const match of log.matchAll(/frame [IPB]:\s*(\d+),?\s+Avg QP:\s*([\d.]+)/g)) {
    frames += Number(match[1]);
    sum += Number(match[1]) * Number(match[2]);
  }
  return frames > 0 ? sum / frames : null;
}
