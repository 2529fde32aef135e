import type { Muxer } from './muxer.ts';

/** Frames one after another, and before them what is told of chapters (ID3v2, “Chapter Frame Addendum”). */
export const mp3: Muxer = {
  format: 'mp3',
  arguments: [],
  extension: 'mp3',
  isOf: ({ family }) => family === 'mp3',
};
