import type { Muxer } from './muxer.ts';

/** MOV with its index first. */
export const mov: Muxer = {
  format: 'mov',
  arguments: ['-movflags', '+faststart'],
  extension: 'mov',
};
