import { bytes, type Bytes } from '../units.ts';
import type { Brief } from './brief.ts';

/** A limit of a receiver, as the size of a whole file. */
export interface Ceiling {
  readonly name: string;
  readonly bytes: Bytes;
}

/**
 * What a receiver's limits of size and rate come to for one file, the lowest first.
 *
 * @param seconds - How long the file is.
 * @param besides - Bytes of sound and container, which a limit of the picture alone leaves out.
 */
export function ceilingsOf(brief: Brief, seconds: number, besides: number): Ceiling[] {
  const ofRate = (kbps: number) => bytes(Math.floor((kbps * 1000 * seconds) / 8));
  const { maxBytes, maxTotalKbps, maxPictureKbps } = brief;
  const all: readonly (Ceiling | null)[] = [
    maxBytes === null ? null : { name: 'largest file', bytes: bytes(maxBytes) },
    maxTotalKbps === null ? null : { name: 'highest rate', bytes: ofRate(maxTotalKbps) },
    maxPictureKbps === null
      ? null
      : { name: 'highest rate of the picture', bytes: bytes(ofRate(maxPictureKbps) + besides) },
  ];
  return all.filter((one) => one !== null).sort((a, b) => a.bytes - b.bytes);
}
