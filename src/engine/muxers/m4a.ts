import type { Muxer } from './muxer.ts';

/** MP4 of sound alone, with its index first. */
export const m4a: Muxer = {
  format: 'ipod',
  arguments: ['-movflags', '+faststart'],
  extension: 'm4a',
  titleTag: 'handler_name',
};
