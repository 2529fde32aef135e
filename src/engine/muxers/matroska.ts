import { isOfWebM } from './webm.ts';
import type { Muxer } from './muxer.ts';

/** Matroska with its index first. */
export const matroska: Muxer = {
  format: 'matroska',
  arguments: ['-cues_to_front', '1'],
  extension: 'mkv',
  captionsAs: 'subrip',
  stampsPerSecond: 1000,
  isOf: (file) => file.family.includes('matroska') && !isOfWebM(file),
};
