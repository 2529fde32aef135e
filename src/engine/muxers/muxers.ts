import type { Container } from '../../core/container/names.ts';
import { mp4 } from './mp4.ts';
import type { Muxer } from './muxer.ts';
import { webm } from './webm.ts';

/** How each container is written. */
export const MUXERS: Readonly<Record<Container, Muxer>> = { mp4, webm };

/** Options that write a result: nothing of the source's own metadata, and the same bytes each time. */
export function resultFile(container: Container, output: string): string[] {
  const { arguments: own, format } = MUXERS[container];
  return [
    ...['-map_metadata', '-1', '-map_chapters', '-1', '-fflags', '+bitexact', ...own, '-f', format],
    `file:${output}`,
  ];
}
