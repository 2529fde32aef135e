/** What was taken of a copied sound. */
export interface CopiedPackets {
  readonly bytes: number;
  /** When the first packet is due; 0 where there is none. */
  readonly firstSeconds: number;
}

/**
 * Reads a listing of packets: the time base of each stream in lines such as `#tb 0: 1/48000`, then a line for each
 * packet with its stream, its time of decoding, its time, its duration and its size.
 */
export function readCopiedPackets(listing: string): CopiedPackets {
  const timeBase = new Map<string, number>();
  let bytes = 0;
  let firstSeconds = Infinity;
  for (const line of listing.split('\n')) {
    const base = /^#tb (\d+): (\d+)\/(\d+)/.exec(line);
    if (base) timeBase.set(base[1]!, Number(base[2]) / Number(base[3]));
    const packet = /^(\d+),\s*-?\d+,\s*(-?\d+),\s*\d+,\s*(\d+)/.exec(line);
    if (!packet) continue;
    firstSeconds = Math.min(firstSeconds, Number(packet[2]) * (timeBase.get(packet[1]!) ?? NaN));
    bytes += Number(packet[3]);
  }
  return { bytes, firstSeconds: Number.isFinite(firstSeconds) ? firstSeconds : 0 };
}
