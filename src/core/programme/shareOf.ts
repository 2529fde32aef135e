import { bytes, type Bytes } from '../units.ts';
import type { ProgrammeFacts } from './facts.ts';

/**
 * Bytes of the master that a stretch of so many seconds has a share in, what its rendition is compared with; rounded, and
 * never more than all of it.
 */
export function shareOfMaster(
  { bytes: whole, durationSeconds }: Pick<ProgrammeFacts, 'bytes' | 'durationSeconds'>,
  seconds: number,
): Bytes {
  return bytes(durationSeconds > 0 ? Math.round(whole * Math.min(1, seconds / durationSeconds)) : whole);
}
