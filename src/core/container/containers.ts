import { aiff } from './aiff.ts';
import type { ContainerDefinition, FileKind } from './definition.ts';
import { flac } from './flac.ts';
import { m4a } from './m4a.ts';
import { matroska } from './matroska.ts';
import { mov } from './mov.ts';
import { mp3 } from './mp3.ts';
import { mp4 } from './mp4.ts';
import type { Container } from './names.ts';
import { ogg } from './ogg.ts';
import { wav } from './wav.ts';
import { webm } from './webm.ts';

/** What each container is and can do. */
export const CONTAINER: Readonly<Record<Container, ContainerDefinition>> = {
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
 * How a file is named and announced.
 *
 * @param hasPicture - Only where the container takes one.
 */
export function fileKind(container: Container, hasPicture: boolean): FileKind {
  const { withPicture, soundAlone } = CONTAINER[container];
  return hasPicture && withPicture ? withPicture : soundAlone;
}
