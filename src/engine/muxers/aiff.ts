import type { Muxer } from './muxer.ts';

/** AIFF. */
export const aiff: Muxer = {
  format: 'aiff',
  arguments: [],
  extension: 'aiff',
  isOf: ({ family }) => family === 'aiff',
};
