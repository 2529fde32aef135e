import type { Container } from '../../core/container/names.ts';
import { labelled, type WrittenLabels } from '../arguments/labels.ts';
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

/**
 * Options that write a result: of the source's own metadata its labels alone, and the same bytes each time.
 *
 * @param inputs - How many there are before those of its labels.
 */
export function resultFile(
  container: Container,
  output: string,
  labels: WrittenLabels | null = null,
  inputs = 1,
): string[] {
  const muxer = MUXERS[container];
  const { arguments: own, format } = muxer;
  return [...labelled(labels, inputs, muxer), '-fflags', '+bitexact', ...own, '-f', format, `file:${output}`];
}
