import { bytes, type BitsPerSecond, type Bytes } from '../units.ts';

/**
 * Bytes of a stream at a rate.
 *
 * @param durationSeconds - 0 or more.
 */
export function bytesAtRate(rate: BitsPerSecond, durationSeconds: number): Bytes {
  return bytes((rate * durationSeconds) / 8);
}

/**
 * Size of an hour at the same average rate.
 *
 * @returns null for a length of 0.
 */
export function bytesPerHour(size: number, durationSeconds: number): Bytes | null {
  return durationSeconds > 0 ? bytes((size / durationSeconds) * 3600) : null;
}

/**
 * Seconds an upload takes when the whole line is free.
 *
 * @param line - In bits per second; above 0.
 */
export function uploadSeconds(size: number, line: BitsPerSecond): number {
  return (size * 8) / line;
}

/** An interval an estimate is believed to lie in, with its middle. */
export interface Estimate {
  readonly low: Bytes;
  readonly likely: Bytes;
  readonly high: Bytes;
}

/**
 * Widens a value into an estimate.
 *
 * @param below - Share below the value, such as 0.05.
 * @param above - Share above it.
 */
export function estimateAround(value: number, below: number, above: number): Estimate {
  return { low: bytes(value * (1 - below)), likely: bytes(value), high: bytes(value * (1 + above)) };
}

/** What is known to the byte, as an estimate. */
export function exactly(value: Bytes): Estimate {
  return { low: value, likely: value, high: value };
}

/** What several parts come to together, each as small, as likely and as large as it may be. */
export function addEstimates(parts: readonly Estimate[]): Estimate {
  const sum = (part: keyof Estimate) => bytes(parts.reduce((total, one) => total + one[part], 0));
  return { low: sum('low'), likely: sum('likely'), high: sum('high') };
}
