import type { ContainerDefinition } from './definition.ts';
import { foreseeMatroskaBytes } from './matroskaTables.ts';

/** WebM (the WebM project's container guidelines, after Matroska, RFC 9559), with its index first. */
export const webm: ContainerDefinition = {
  name: 'WebM',
  article: 'A',
  hint: 'Open formats; plays in every browser but old ones.',
  withPicture: { extension: '.webm', mime: 'video/webm' },
  soundAlone: { extension: '.webm', mime: 'audio/webm' },
  holdsSeveralSounds: true,
  playsInBrowsers: true,
  foreseeBytes: foreseeMatroskaBytes,
};
