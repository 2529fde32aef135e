import { bytes } from '../units.ts';
import type { ContainerDefinition } from './definition.ts';
import { TAGS } from './tags.ts';
import { weighLabels } from './labels.ts';

/** Head of a page, which holds a second of sound or 64 kB (RFC 3533). */
const PAGE_BYTES = 28;
const PAGE_PAYLOAD_BYTES = 65_025;
/** Identification and comments, on pages of their own. */
const HEAD_BYTES = 180;

/** Ogg (RFC 3533). */
export const ogg: ContainerDefinition = {
  name: 'Ogg',
  article: 'An',
  hint: 'Sound alone in open formats; plays in every browser but old ones.',
  withPicture: null,
  soundAlone: { extension: '.ogg', mime: 'audio/ogg' },
  holdsSeveralSounds: false,
  holds: {
    chapters: true,
    timecode: false,
    captions: false,
    sounds: true,
    // A comment is what it calls a description (“Vorbis I specification”, comment fields), so it has one of them.
    tags: TAGS.filter((tag) => tag !== 'description'),
    sharesTitle: true,
    bytesOf: (labels) =>
      weighLabels(labels, {
        chapterList: 0,
        chapter: (title) => 46 + title,
        sound: (title) => 40 + title,
        tagList: 8,
        tag: (text, name) => 8 + name + text,
      }),
  },
  playsInBrowsers: true,
  foreseeBytes: ({ sounds: [audio], payloadBytes }) => {
    if (!audio) return bytes(HEAD_BYTES);
    const pages = Math.max(audio.packets / audio.packetsPerSecond, payloadBytes / PAGE_PAYLOAD_BYTES) + 1;
    // Each packet is cut into pieces of 255 bytes, and each piece takes a byte to say how long it is.
    const pieces = payloadBytes / 255 + audio.packets;
    return bytes(HEAD_BYTES + audio.codec.setUpBytes + PAGE_BYTES * Math.ceil(pages) + pieces);
  },
};
