import type { Muxer } from './muxer.ts';

/** WAVE; beyond 4 GB in the form that can say so. */
export const wav: Muxer = {
  format: 'wav',
  arguments: ['-rf64', 'auto'],
  extension: 'wav',
  isOf: ({ family }) => family === 'wav',
};
