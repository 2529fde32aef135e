import { QUICKTIME } from './mov.ts';
import type { Muxer } from './muxer.ts';

/** MP4 with its index first. */
export const mp4: Muxer = {
  format: 'mp4',
  arguments: ['-movflags', '+faststart'],
  extension: 'mp4',
  captionsAs: 'mov_text',
  titleTag: 'handler_name',
  isOf: ({ family, brand }) => family.includes('mov') && brand !== QUICKTIME,
};
