import { bytes } from '../units.ts';
import type { ContainerDefinition } from './definition.ts';
import { TAGS } from './tags.ts';
import { weighLabels } from './labels.ts';

/** One frame that says how long the file is, and an empty head of tags. */
const HEAD_BYTES = 600;

/** Frames of MPEG audio one after another (ISO/IEC 11172-3). */
export const mp3: ContainerDefinition = {
  name: 'MP3',
  article: 'An',
  hint: 'Sound alone; plays on everything there is.',
  withPicture: null,
  soundAlone: { extension: '.mp3', mime: 'audio/mpeg' },
  holdsSeveralSounds: false,
  holds: {
    chapters: true,
    timecode: false,
    captions: false,
    sounds: false,
    tags: TAGS,
    bytesOf: (labels) =>
      weighLabels(labels, {
        chapterList: 16,
        chapter: (title) => 52 + 2 * title,
        sound: () => 0,
        tagList: 16,
        tag: (text, name) => 16 + name + text,
      }),
  },
  playsInBrowsers: true,
  foreseeBytes: () => bytes(HEAD_BYTES),
};
