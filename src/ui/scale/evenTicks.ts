const STEPS = [1, 2, 2.5, 5, 10] as const;

/**
 * Round values at even distances that span a range.
 *
 * @param about - How many distances are wanted; up to twice as many come out.
 * @returns At least two, the first at or below the least and the last at or above the most.
 */
export function evenTicks(least: number, most: number, about: number): number[] {
  const range = Math.max(most - least, Math.abs(most) * 1e-6, 1e-9);
  const unit = 10 ** Math.floor(Math.log10(range / about));
  const step = unit * (STEPS.find((candidate) => range / (candidate * unit) <= about) ?? 10);
  const first = Math.floor(least / step + 1e-9);
  const last = Math.max(first + 1, Math.ceil(most / step - 1e-9));
  // Multiplied, not added up, and rounded off: floating point must not show in a label.
  return Array.from({ length: last - first + 1 }, (_, index) => Number(((first + index) * step).toPrecision(12)));
}

/** In dB; what lies nearer together nobody sees. */
const LEAST_SPAN = 1;

/** Marks of an axis of qualities, in dB: at least a decibel, so that a single result does not look like a world of differences. */
export function qualityTicks(decibels: readonly number[], about: number): number[] {
  const [least, most] = [Math.min(...decibels), Math.max(...decibels)];
  const missing = Math.max(0, LEAST_SPAN - (most - least)) / 2;
  return evenTicks(least - missing, most + missing, about);
}
