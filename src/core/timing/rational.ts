/** An exact fraction; `den` is positive and the pair is in lowest terms. */
export interface Rational {
  readonly num: number;
  readonly den: number;
}

/**
 * Makes a fraction in lowest terms.
 *
 * @throws RangeError when either part is not a safe integer or `den` is not positive.
 */
export function rational(num: number, den: number): Rational {
  if (!Number.isSafeInteger(num) || !Number.isSafeInteger(den) || den <= 0) {
    throw new RangeError(`Expected a fraction of whole numbers over a positive one, got ${num}/${den}.`);
  }
  const divisor = greatestCommonDivisor(Math.abs(num), den) || 1;
  return { num: num / divisor, den: den / divisor };
}

/** The value as a floating-point number, for display and estimates only. */
export function toNumber(value: Rational): number {
  return value.num / value.den;
}

/** Whether two fractions in lowest terms are the same. */
export function sameRational(a: Rational, b: Rational): boolean {
  return a.num === b.num && a.den === b.den;
}

/**
 * Reads `25`, `25/1` or `25:1`.
 *
 * @returns null when the text is not a positive fraction.
 */
export function parseRational(text: string): Rational | null {
  const match = /^(\d{1,12})(?:[/:](\d{1,12}))?$/.exec(text.trim());
  if (!match) return null;
  const num = Number(match[1]);
  const den = Number(match[2] ?? 1);
  return num > 0 && den > 0 ? rational(num, den) : null;
}

/**
 * Seconds taken by a number of frames at a rate.
 *
 * @param frames - Whole frames.
 * @param rate - Frames per second.
 */
export function framesToSeconds(frames: number, rate: Rational): number {
  return (frames * rate.den) / rate.num;
}

function greatestCommonDivisor(a: number, b: number): number {
  return b === 0 ? a : greatestCommonDivisor(b, a % b);
}
