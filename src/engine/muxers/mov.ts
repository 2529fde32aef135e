import type { Muxer } from './muxer.ts';

/** The brand of a MOV file, by which it is told from MP4 (QuickTime File Format). */
export const QUICKTIME = 'qt';

/** MOV with its index first. */
export const mov: Muxer = {
  format: 'mov',
  arguments: ['-movflags', '+faststart'],
  extension: 'mov',
  captionsAs: 'mov_text',
  titleTag: 'handler_name',
  isOf: ({ family, brand }) => family.includes('mov') && brand === QUICKTIME,
};
