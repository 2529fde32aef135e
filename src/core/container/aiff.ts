import { bytes } from '../units.ts';
import type { ContainerDefinition } from './definition.ts';
import { HOLDS_NONE } from './labels.ts';

/** FORM, COMM and SSND. */
const HEAD_BYTES = 54;

/** AIFF: samples with the high byte first. */
export const aiff: ContainerDefinition = {
  name: 'AIFF',
  article: 'An',
  hint: 'Sound alone, sample by sample, for editing; browsers do not play it.',
  withPicture: null,
  soundAlone: { extension: '.aiff', mime: 'audio/aiff' },
  holdsSeveralSounds: false,
  holds: HOLDS_NONE,
  playsInBrowsers: false,
  foreseeBytes: () => bytes(HEAD_BYTES),
};
