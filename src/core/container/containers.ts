import type { ContainerDefinition, FileKind } from './definition.ts';
import { mp4 } from './mp4.ts';
import type { Container } from './names.ts';
import { webm } from './webm.ts';

/** What each container is and can do. */
export const CONTAINER: Readonly<Record<Container, ContainerDefinition>> = { mp4, webm };

/** How a file is named and announced. */
export function fileKind(container: Container, hasPicture: boolean): FileKind {
  const { withPicture, soundAlone } = CONTAINER[container];
  return hasPicture ? withPicture : soundAlone;
}
