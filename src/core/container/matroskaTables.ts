import { bytes, type Bytes } from '../units.ts';
import type { ContainerOutlook } from './definition.ts';
import { TAGS } from './tags.ts';
import { weighLabels, type HeldLabels } from './labels.ts';

/** EBML header, segment, information, both tracks with their tags, and checksums. */
const FIXED_BYTES = 640;
/** Each track of sound beyond the first, with its tags. */
const FURTHER_TRACK_BYTES = 200;
/** Head of a cluster with its time, size and checksum; one at each keyframe, or every five seconds. */
const CLUSTER_BYTES = 28;
/** Head of a simple block: id, size of two or three bytes, track, time, flags. */
const BLOCK_BYTES = 7;
/** More of it where a second picture comes along: a group, what is added, its number and its sizes (measured). */
const ADDITION_BYTES = 17;
/** What the index says of a keyframe, or of a cluster of sound alone: time, track, place. */
const CUE_BYTES = 19;
const SECONDS_OF_A_CLUSTER = 5;
/** A cluster of sound alone ends sooner: when it has so many bytes. */
const BYTES_OF_A_CLUSTER = 5_000_000;

const TIMECODE_BYTES = 64;

const WEIGHTS = {
  chapterList: 40,
  chapter: (title: number) => 34 + title,
  sound: (title: number) => 16 + title,
  tagList: 40,
  tag: (text: number, name: number) => 16 + name + text,
};

/** What Matroska tells (RFC 9559, 5.1.7 for chapters and 5.1.8 for tags); what it takes was measured. */
export const MATROSKA_LABELS: HeldLabels = {
  chapters: true,
  timecode: true,
  sounds: true,
  captions: true,
  tags: TAGS,
  bytesOf: (labels) => weighLabels(labels, WEIGHTS) + (labels.timecode === null ? 0 : TIMECODE_BYTES),
};

/** The bytes of a Matroska file (RFC 9559) that are neither picture nor sound, before encoding. */
export function foreseeMatroskaBytes({ video, sounds, keyframeInterval, payloadBytes }: ContainerOutlook): Bytes {
  const keyframes = video ? Math.ceil(video.frames / keyframeInterval) : 0;
  const blocks = (video?.frames ?? 0) + sum(sounds.map(({ packets }) => packets));
  const seconds = Math.max(0, ...sounds.map(({ packets, packetsPerSecond }) => packets / packetsPerSecond));
  const bySound = seconds / SECONDS_OF_A_CLUSTER;
  const clusters = Math.ceil(Math.max(keyframes, bySound) + payloadBytes / BYTES_OF_A_CLUSTER);
  const cues = video ? keyframes : clusters;
  const setUp = (video?.codec.setUpBytes ?? 0) + sum(sounds.map(({ codec }) => codec.setUpBytes));
  const further = FURTHER_TRACK_BYTES * Math.max(0, sounds.length - 1);
  const heads = BLOCK_BYTES * blocks + (video?.hasSecondPicture ? ADDITION_BYTES * video.frames : 0);
  return bytes(FIXED_BYTES + further + setUp + heads + CLUSTER_BYTES * clusters + CUE_BYTES * cues);
}

function sum(values: readonly number[]): number {
  return values.reduce((total, value) => total + value, 0);
}
