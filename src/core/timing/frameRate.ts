import { rational, sameRational, toNumber, type Rational } from './rational.ts';

/** Rates the trade uses, with the usual name of each (SMPTE ST 12-1, ITU-R BT.709 and BT.2020). */
const USUAL_RATES: readonly (readonly [rate: Rational, name: string])[] = [
  [rational(24000, 1001), '23.976'],
  [rational(24, 1), '24'],
  [rational(25, 1), '25'],
  [rational(30000, 1001), '29.97'],
  [rational(30, 1), '30'],
  [rational(48, 1), '48'],
  [rational(50, 1), '50'],
  [rational(60000, 1001), '59.94'],
  [rational(60, 1), '60'],
  [rational(100, 1), '100'],
  [rational(120000, 1001), '119.88'],
  [rational(120, 1), '120'],
];

/** 24 and 24000/1001 differ by 0.1 %; half of that keeps them apart. */
const SNAP_TOLERANCE = 0.0004;

/**
 * The trade's rate nearest to a measured one. Matroska's millisecond stamps turn 60000/1001 into 19001/317,
 * and typing 59.94 must mean 60000/1001.
 *
 * @param measured - Frames per second.
 * @returns The usual fraction within 0.04 %, or the measured rate in thousandths.
 */
export function snapFrameRate(measured: number): Rational {
  const usual = USUAL_RATES.find(([rate]) => Math.abs(toNumber(rate) / measured - 1) < SNAP_TOLERANCE);
  return usual ? usual[0] : rational(Math.max(1, Math.round(measured * 1000)), 1000);
}

/**
 * The rate as people say it: `25`, `59.94`, or up to three decimals for the unusual.
 */
export function nameFrameRate(rate: Rational): string {
  const usual = USUAL_RATES.find(([known]) => known.num === rate.num && known.den === rate.den);
  return usual ? usual[1] : String(Number(toNumber(rate).toFixed(3)));
}

/** Rates are written in several ways: 59.94 for 60000/1001. */
const RATE_TOLERANCE = 1.001;

/** Whether frames come no quicker than is asked for. */
export function isWithinRate(framesPerSecond: number, most: Rational): boolean {
  return framesPerSecond <= toNumber(most) * RATE_TOLERANCE;
}

/** Whether the trade uses a rate. */
export function isUsualRate(rate: Rational): boolean {
  return USUAL_RATES.some(([usual]) => sameRational(usual, rate));
}

/**
 * The usual rates near a measured one, the nearest first.
 *
 * @param within - As a share of it.
 */
export function usualRatesNear(measured: number, within: number): Rational[] {
  const off = (rate: Rational) => Math.abs(toNumber(rate) / measured - 1);
  return USUAL_RATES.map(([rate]) => rate)
    .filter((rate) => off(rate) <= within)
    .sort((a, b) => off(a) - off(b));
}

/** The least of the usual rates that is no slower than a measured one; the measured one where none is. */
export function usualRateFor(rate: Rational): Rational {
  return USUAL_RATES.find(([usual]) => isWithinRate(toNumber(rate), usual))?.[0] ?? rate;
}
