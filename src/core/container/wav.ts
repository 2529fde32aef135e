import { bytes } from '../units.ts';
import type { ContainerDefinition } from './definition.ts';
import { holdsTagsAlone } from './labels.ts';
import { TAGS } from './tags.ts';

/** Left free for a size beyond 4 GB (EBU Tech 3306). */
const GROWTH_BYTES = 36;

/** RIFF, `fmt ` and `data`; beyond 16 bits the format takes its longer form. */
const HEAD_BYTES = 44 + GROWTH_BYTES;
const LONG_HEAD_BYTES = 68 + GROWTH_BYTES;

/** WAVE in RIFF. */
export const wav: ContainerDefinition = {
  name: 'WAV',
  article: 'A',
  hint: 'Sound alone, sample by sample, for editing.',
  withPicture: null,
  soundAlone: { extension: '.wav', mime: 'audio/wav' },
  holdsSeveralSounds: false,
  // The list of its INFO chunk (“Multimedia Programming Interface and Data Specifications 1.0”), from memory.
  holds: holdsTagsAlone(
    TAGS.filter((tag) => tag !== 'description'),
    { tagList: 16, tag: (text) => 12 + text },
  ),
  playsInBrowsers: true,
  foreseeBytes: ({ sounds: [audio] }) => bytes((audio?.bitDepth ?? 16) > 16 ? LONG_HEAD_BYTES : HEAD_BYTES),
};
