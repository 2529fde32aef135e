import { bytes, type Bytes } from '../units.ts';
import type { ContainerOutlook } from './definition.ts';

/** EBML header, segment, information, both tracks with their tags, and checksums. */
const FIXED_BYTES = 640;
/** Head of a cluster with its time, size and checksum; one at each keyframe, or every five seconds. */
const CLUSTER_BYTES = 28;
/** Head of a simple block: id, size of two or three bytes, track, time, flags. */
const BLOCK_BYTES = 7;
/** What the index says of a keyframe, or of a cluster of sound alone: time, track, place. */
const CUE_BYTES = 19;
const SECONDS_OF_A_CLUSTER = 5;
/** A cluster of sound alone ends sooner: when it has so many bytes. */
const BYTES_OF_A_CLUSTER = 5_000_000;

/** The bytes of a Matroska file (RFC 9559) that are neither picture nor sound, before encoding. */
export function foreseeMatroskaBytes({ video, audio, keyframeInterval, payloadBytes }: ContainerOutlook): Bytes {
  const keyframes = video ? Math.ceil(video.frames / keyframeInterval) : 0;
  const blocks = (video?.frames ?? 0) + (audio?.packets ?? 0);
  const bySound = audio ? audio.packets / audio.packetsPerSecond / SECONDS_OF_A_CLUSTER : 0;
  const clusters = Math.ceil(Math.max(keyframes, bySound) + payloadBytes / BYTES_OF_A_CLUSTER);
  const cues = video ? keyframes : clusters;
  const setUp = (video?.codec.setUpBytes ?? 0) + (audio?.codec.setUpBytes ?? 0);
  return bytes(FIXED_BYTES + setUp + BLOCK_BYTES * blocks + CLUSTER_BYTES * clusters + CUE_BYTES * cues);
}
