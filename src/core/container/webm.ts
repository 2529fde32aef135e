import { bytes } from '../units.ts';
import type { ContainerDefinition, ContainerOutlook } from './definition.ts';

/** EBML header, segment, information, both tracks with their tags, and checksums. */
const FIXED_BYTES = 640;
/** Head of a cluster with its time, size and checksum; one at each keyframe, or every five seconds. */
const CLUSTER_BYTES = 28;
/** Head of a simple block: id, size of two or three bytes, track, time, flags. */
const BLOCK_BYTES = 7;
/** What the index says of a keyframe: time, track, place. */
const CUE_BYTES = 19;

/** WebM (the WebM project's container guidelines, after Matroska, RFC 9559), with its index first. */
export const webm: ContainerDefinition = {
  name: 'WebM',
  article: 'A',
  hint: 'Open formats; plays in every browser but old ones.',
  withPicture: { extension: '.webm', mime: 'video/webm' },
  soundAlone: { extension: '.webm', mime: 'audio/webm' },
  foreseeBytes: ({ video, audio, keyframeInterval }: ContainerOutlook) => {
    const keyframes = video ? Math.ceil(video.frames / keyframeInterval) : 0;
    const blocks = (video?.frames ?? 0) + (audio?.packets ?? 0);
    const clusters = Math.max(keyframes, audio ? audio.packets / audio.packetsPerSecond / 5 : 0);
    return bytes(FIXED_BYTES + BLOCK_BYTES * blocks + CLUSTER_BYTES * clusters + CUE_BYTES * keyframes);
  },
};
