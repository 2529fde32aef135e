import type { ContainerDefinition } from './definition.ts';
import { foreseeMatroskaBytes, MATROSKA_LABELS } from './matroskaTables.ts';

/** Matroska (RFC 9559), with its index first. */
export const matroska: ContainerDefinition = {
  name: 'Matroska',
  article: 'A',
  hint: 'Takes every codec; most browsers do not play it.',
  withPicture: { extension: '.mkv', mime: 'video/matroska' },
  soundAlone: { extension: '.mka', mime: 'audio/matroska' },
  holdsSeveralSounds: true,
  holds: MATROSKA_LABELS,
  playsInBrowsers: false,
  foreseeBytes: foreseeMatroskaBytes,
};
