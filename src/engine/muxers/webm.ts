import type { Muxer } from './muxer.ts';

/** WebM with its index first. */
export const webm: Muxer = {
  format: 'webm',
  arguments: ['-cues_to_front', '1'],
  extension: 'webm',
  stampsPerSecond: 1000,
};
