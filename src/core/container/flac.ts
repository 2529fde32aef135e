import { bytes } from '../units.ts';
import type { ContainerDefinition } from './definition.ts';
import { holdsTagsAlone } from './labels.ts';
import { TAGS } from './tags.ts';

/** Stream information, comments, and 8 KiB left free for tags (RFC 9639). */
const HEAD_BYTES = 8_270;

/** FLAC's own file (RFC 9639). */
export const flac: ContainerDefinition = {
  name: 'FLAC',
  article: 'A',
  hint: 'Sound alone, without loss; about half of WAV.',
  withPicture: null,
  soundAlone: { extension: '.flac', mime: 'audio/flac' },
  holdsSeveralSounds: false,
  // Comments as in Ogg.
  holds: holdsTagsAlone(
    TAGS.filter((tag) => tag !== 'description'),
    { tagList: 16, tag: (text, name) => 8 + name + text },
  ),
  playsInBrowsers: true,
  foreseeBytes: () => bytes(HEAD_BYTES),
};
