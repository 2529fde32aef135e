import type { ContainerDefinition } from './definition.ts';
import { MP4_LABELS } from './mp4Labels.ts';
import { foreseeMp4Bytes, M4A_DIALECT } from './mp4Tables.ts';

/** MP4 of sound alone (ISO/IEC 14496-14), with its index first. */
export const m4a: ContainerDefinition = {
  name: 'M4A',
  article: 'An',
  hint: 'Sound alone; plays everywhere.',
  withPicture: null,
  soundAlone: { extension: '.m4a', mime: 'audio/mp4' },
  holdsSeveralSounds: true,
  holds: { ...MP4_LABELS, captions: false },
  playsInBrowsers: true,
  foreseeBytes: (outlook) => foreseeMp4Bytes(M4A_DIALECT, outlook),
};
