import type { Container } from '../../core/container/names.ts';
import { aiff } from './aiff.ts';
import { flac } from './flac.ts';
import { m4a } from './m4a.ts';
import { matroska } from './matroska.ts';
import { mov } from './mov.ts';
import { mp3 } from './mp3.ts';
import { mp4 } from './mp4.ts';
import type { Muxer } from './muxer.ts';
import { ogg } from './ogg.ts';
import { wav } from './wav.ts';
import { webm } from './webm.ts';

/** How each container is written. */
export const MUXERS: Readonly<Record<Container, Muxer>> = {
  mp4,
  mov,
  matroska,
  webm,
  m4a,
  mp3,
  ogg,
  flac,
  wav,
  aiff,
};

/** Options that write a result: nothing of the source's own metadata, and the same bytes each time. */
export function resultFile(container: Container, output: string): string[] {
  const { arguments: own, format } = MUXERS[container];
  return [
    ...['-map_metadata', '-1', '-map_chapters', '-1', '-fflags', '+bitexact', ...own, '-f', format],
    `file:${output}`,
  ];
}
