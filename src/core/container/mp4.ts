import type { ContainerDefinition } from './definition.ts';
import { MP4_LABELS } from './mp4Labels.ts';
import { foreseeMp4Bytes, MP4_DIALECT } from './mp4Tables.ts';

/** ISO/IEC 14496-14, with its index first, so that it plays while it loads. */
export const mp4: ContainerDefinition = {
  name: 'MP4',
  article: 'An',
  hint: 'Plays everywhere.',
  withPicture: { extension: '.mp4', mime: 'video/mp4' },
  soundAlone: { extension: '.m4a', mime: 'audio/mp4' },
  holdsSeveralSounds: true,
  holds: MP4_LABELS,
  playsInBrowsers: true,
  foreseeBytes: (outlook) => foreseeMp4Bytes(MP4_DIALECT, outlook),
};
