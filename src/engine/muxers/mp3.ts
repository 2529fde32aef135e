import type { Muxer } from './muxer.ts';

/** Frames one after another, and no tags. */
export const mp3: Muxer = {
  format: 'mp3',
  arguments: ['-id3v2_version', '0'],
  extension: 'mp3',
  isOf: ({ family }) => family === 'mp3',
};
