import type { ContainerDefinition } from './definition.ts';
import { foreseeMatroskaBytes, MATROSKA_LABELS } from './matroskaTables.ts';

/** WebM (the WebM project's container guidelines, after Matroska, RFC 9559), with its index first. */
export const webm: ContainerDefinition = {
  name: 'WebM',
  article: 'A',
  hint: 'Open formats; plays in every browser but old ones.',
  withPicture: { extension: '.webm', mime: 'video/webm' },
  soundAlone: { extension: '.webm', mime: 'audio/webm' },
  holdsSeveralSounds: true,
  holds: { ...MATROSKA_LABELS, timecode: false },
  playsInBrowsers: true,
  foreseeBytes: foreseeMatroskaBytes,
};
