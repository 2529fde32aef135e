import type { Muxer } from './muxer.ts';

/** Ogg. */
export const ogg: Muxer = {
  format: 'ogg',
  arguments: [],
  extension: 'ogg',
  isOf: ({ family }) => family === 'ogg',
};
