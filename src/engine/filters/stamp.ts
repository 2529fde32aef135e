import type { Stamp } from '../../core/picture/stamp.ts';
import type { Rational } from '../../core/timing/rational.ts';

/** Ticks a second for frames that keep their own times. */
export const OWN_TICKS = 90_000;

export function renderStamp({ rate }: Stamp): string {
  // Two frames at one time would lose one of them in the encoder.
  return rate ? exactTiming(rate) : `settb=1/${OWN_TICKS},setpts=if(N\\,max(PTS-STARTPTS\\,PREV_OUTPTS+1)\\,0)`;
}

/** Stamps frames afresh at the exact rate, whatever rounding the source's container did to it. */
export function exactTiming(rate: Rational): string {
  return `settb=${rate.den}/${rate.num},setpts=N`;
}
