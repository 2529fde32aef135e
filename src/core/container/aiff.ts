import { bytes } from '../units.ts';
import type { ContainerDefinition } from './definition.ts';
import { holdsTagsAlone } from './labels.ts';

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
  // Its chunks of text (“AIFF-C”, 1991, chunks NAME, (c) and ANNO), from memory.
  holds: holdsTagsAlone(['title', 'copyright', 'comment'], { tagList: 0, tag: (text) => 12 + text }),
  playsInBrowsers: false,
  foreseeBytes: () => bytes(HEAD_BYTES),
};
