import type { TimedPacket } from '../../core/rate/bufferModel.ts';

/**
 * Reads the packets of one stream, in the order they lie, from lines such as `packet|dts_time=0.040000|size=4711`.
 */
export function createPacketReader(): { readonly read: (line: string) => void; readonly finish: () => TimedPacket[] } {
  const packets: TimedPacket[] = [];
  return {
    read: (line) => {
      const match = /^packet\|dts_time=(-?[\d.]+)\|size=(\d+)/.exec(line);
      if (match) packets.push({ seconds: Number(match[1]), bytes: Number(match[2]) });
    },
    finish: () => packets,
  };
}
