import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { bitsPerSecond } from '../units.ts';
import { bufferOf, leastBufferBits, type TimedPacket } from './bufferModel.ts';

const RATE = bitsPerSecond(8000);

/** Packets a second apart. */
const everySecond = (...bytes: number[]): TimedPacket[] => bytes.map((one, index) => ({ seconds: index, bytes: one }));

describe('the buffer a stream needs', () => {
  it('is the largest packet where all flow in at the rate', () => {
    expect(leastBufferBits([], RATE)).toBe(0);
    expect(leastBufferBits(everySecond(1000, 1000, 1000), RATE)).toBe(8000);
    expect(leastBufferBits(everySecond(100, 4000, 100), RATE)).toBe(32_000);
  });

  it('adds up what comes faster than the rate, and forgets what has leaked away', () => {
    expect(leastBufferBits(everySecond(2000, 2000, 2000), RATE)).toBe(32_000);
    expect(leastBufferBits(everySecond(2000, 0, 0, 2000), RATE)).toBe(16_000);
  });

  it('is what a simulated receiver needs to the bit', () => {
    const packet = fc.record({ gap: fc.integer({ min: 0, max: 2000 }), bytes: fc.integer({ min: 0, max: 5000 }) });
    fc.assert(
      fc.property(fc.array(packet, { minLength: 1, maxLength: 40 }), (list) => {
        let at = 0;
        const packets = list.map(({ gap, bytes }) => ({ seconds: (at += gap / 1000), bytes }));
        const least = leastBufferBits(packets, RATE);
        expect(runsDry(packets, least + 0.001)).toBe(false);
        if (least > 0) expect(runsDry(packets, least * 0.999 - 1)).toBe(true);
      }),
    );
  });
});

describe('a highest rate', () => {
  it('is held over two seconds of it, a steady one over one, or over what is asked', () => {
    expect(bufferOf(4000, null)).toEqual({ highest: 4_000_000, bits: 8_000_000 });
    expect(bufferOf(4000, null, 'steady')).toEqual({ highest: 4_000_000, bits: 4_000_000 });
    expect(bufferOf(4000, 1500)).toEqual({ highest: 4_000_000, bits: 1_500_000 });
  });
});

/** A receiver: full at first, filled at the rate up to what it holds, emptied by each picture. */
function runsDry(packets: readonly TimedPacket[], holds: number): boolean {
  let fill = holds;
  let before = packets[0]!.seconds;
  return packets.some(({ seconds, bytes }) => {
    fill = Math.min(holds, fill + RATE * (seconds - before)) - bytes * 8;
    before = seconds;
    return fill < 0;
  });
}
