import { bitsPerSecond, type BitsPerSecond } from '../units.ts';

/** A receiver's buffer: it fills at the highest rate, and each picture is taken out of it when it is due. */
export interface RateBuffer {
  readonly highest: BitsPerSecond;
  /** What it holds, in bits. */
  readonly bits: number;
}

/** A packet by when it is decoded. */
export interface TimedPacket {
  readonly seconds: number;
  readonly bytes: number;
}

/** A buffer holds so many seconds of its rate where nothing else is said (common practice, no source). */
const USUAL_SECONDS = 2;

/** A rate held steadily is held over a shorter one (common practice, no source). */
const STEADY_SECONDS = 1;

/**
 * The buffer of a highest rate.
 *
 * @param bufferKbit - null takes the usual one.
 */
export function bufferOf(maxKbps: number, bufferKbit: number | null, kind: 'usual' | 'steady' = 'usual'): RateBuffer {
  const seconds = kind === 'usual' ? USUAL_SECONDS : STEADY_SECONDS;
  return { highest: bitsPerSecond(maxKbps * 1000), bits: (bufferKbit ?? maxKbps * seconds) * 1000 };
}

/**
 * The smallest buffer, full when the first picture is due, that never runs dry at a rate: the deepest a leaky bucket is
 * filled that leaks at the rate (the hypothetical reference decoder of ITU-T H.264, annex C, at a variable rate).
 *
 * @param packets - In the order they are decoded.
 * @returns Bits; 0 for none.
 */
export function leastBufferBits(packets: readonly TimedPacket[], rate: BitsPerSecond): number {
  let level = 0;
  let deepest = 0;
  let before = packets[0]?.seconds ?? 0;
  for (const { seconds, bytes } of packets) {
    level = Math.max(0, level - rate * (seconds - before)) + bytes * 8;
    deepest = Math.max(deepest, level);
    before = seconds;
  }
  return deepest;
}
