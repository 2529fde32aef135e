import type { Muxer } from './muxer.ts';

/** FLAC. */
export const flac: Muxer = {
  format: 'flac',
  arguments: [],
  extension: 'flac',
  isOf: ({ family }) => family === 'flac',
};
