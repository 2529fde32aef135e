/** Numbers that are easily confused carry their unit in the type. */
declare const unit: unique symbol;
type Unit<Name extends string> = number & { readonly [unit]: Name };

export type Bytes = Unit<'Bytes'>;
export type BitsPerSecond = Unit<'BitsPerSecond'>;

/**
 * Brands whole bytes.
 *
 * @param value - Rounded to the nearest byte.
 * @throws RangeError when negative or not finite.
 */
export function bytes(value: number): Bytes {
  return checked(value, 'bytes') as Bytes;
}

/**
 * Brands a whole bit rate.
 *
 * @param value - In bits per second; rounded to the nearest bit.
 * @throws RangeError when negative or not finite.
 */
export function bitsPerSecond(value: number): BitsPerSecond {
  return checked(value, 'bits per second') as BitsPerSecond;
}

/**
 * The average rate of so many bytes over so long.
 *
 * @returns 0 for a length of 0.
 */
export function averageRate(size: number, durationSeconds: number): BitsPerSecond {
  return bitsPerSecond(durationSeconds > 0 ? (size * 8) / durationSeconds : 0);
}

function checked(value: number, name: string): number {
  if (!Number.isFinite(value) || value < 0) {
    throw new RangeError(`Expected ${name} as a number of 0 or more, got ${value}.`);
  }
  return Math.round(value);
}
