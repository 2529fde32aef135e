import type { ContainerDefinition } from './definition.ts';
import { MOV_LABELS } from './mp4Labels.ts';
import { foreseeMp4Bytes, MOV_DIALECT } from './mp4Tables.ts';

/** The QuickTime file format, with its index first. */
export const mov: ContainerDefinition = {
  name: 'MOV',
  article: 'A',
  hint: 'For editing and hand-over; browsers do not play it.',
  withPicture: { extension: '.mov', mime: 'video/quicktime' },
  soundAlone: { extension: '.mov', mime: 'video/quicktime' },
  holdsSeveralSounds: true,
  holds: MOV_LABELS,
  playsInBrowsers: false,
  foreseeBytes: (outlook) => foreseeMp4Bytes(MOV_DIALECT, outlook),
};
