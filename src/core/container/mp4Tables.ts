import { toNumber } from '../timing/rational.ts';
import { bytes, type Bytes } from '../units.ts';
import type { Mp4Entry } from '../video/definition.ts';
import type { ContainerOutlook } from './definition.ts';

/**
 * The bytes of an MP4 file that are neither picture nor sound, from its tables (ISO/IEC 14496-12 for the boxes,
 * 14496-14 for `esds`, 14496-15 for `avcC` and `hvcC`): index first, one picture track, at most one sound track.
 */
export interface Mp4Tables {
  readonly video: VideoTables | null;
  readonly audio: AudioTables | null;
  /** Payload of `mdat`; from 4 GB its header is twice as long and the chunk offsets are 64-bit. */
  readonly payloadBytes: number;
}

export interface VideoTables {
  readonly entry: Mp4Entry;
  readonly samples: number;
  readonly keyframes: number;
  /** Runs of equal decode duration. */
  readonly durationRuns: number;
  /** Runs of equal composition offset; 0 when no frame is reordered and the table is left out. */
  readonly offsetRuns: number;
  readonly chunks: number;
  /** Runs of chunks with equal sample counts. */
  readonly chunkRuns: number;
  /** The codec's own set-up: parameter sets. */
  readonly parameterSetBytes: number;
  readonly hasColour: boolean;
}

export interface AudioTables {
  readonly samples: number;
  readonly durationRuns: number;
  readonly chunks: number;
  readonly chunkRuns: number;
}

const FULL_BOX = 12;
const TABLE_HEAD = FULL_BOX + 4;
/** `ftyp` with three brands. */
const FILE_TYPE = 28;
const MOVIE_HEADER = 8 + 108;
const USER_DATA = 61;
const FREE = 8;
/** trak, tkhd, edts, mdia, mdhd, hdlr, minf, media header, dinf, stbl without their tables. */
const TRACK_FIXED = 8 + 92 + 36 + 8 + 32 + 45 + 8 + 36 + 8;
const VIDEO_MEDIA_HEADER = 20;
const AUDIO_MEDIA_HEADER = 16;
/** Sample entry (86), `pasp` (16) and `btrt` (20). */
const VIDEO_ENTRY = TABLE_HEAD + 86 + 16 + 20;
const COLOUR_BOX = 19;
/** `mp4a` (36), `esds` (54), `btrt` (20). */
const AUDIO_ENTRY = TABLE_HEAD + 36 + 54 + 20;
/** `sgpd` and `sbgp`: the decoder's run-in is declared. */
const AUDIO_RUN_IN = 26 + 28;
const LARGE_FILE = 2 ** 32;

/**
 * The container's bytes when every count is known: exact to the byte for files our engine wrote.
 */
export function mp4ContainerBytes(tables: Mp4Tables): Bytes {
  const offset = tables.payloadBytes >= LARGE_FILE ? 8 : 4;
  const mdatHead = tables.payloadBytes >= LARGE_FILE ? 16 : 8;
  const video = tables.video ? videoTrackBytes(tables.video, offset) : 0;
  const audio = tables.audio ? audioTrackBytes(tables.audio, offset) : 0;
  const brand = tables.video?.entry.brandBytes ?? 0;
  return bytes(FILE_TYPE + brand + MOVIE_HEADER + video + audio + USER_DATA + FREE + mdatHead);
}

function videoTrackBytes(video: VideoTables, offsetBytes: number): number {
  return (
    TRACK_FIXED +
    VIDEO_MEDIA_HEADER +
    VIDEO_ENTRY +
    video.parameterSetBytes +
    (video.hasColour ? COLOUR_BOX : 0) +
    video.entry.otherBytes +
    video.entry.bytesPerFrame * video.samples +
    (TABLE_HEAD + 8 * video.durationRuns) +
    (TABLE_HEAD + 4 * video.keyframes) +
    (video.offsetRuns > 0 ? TABLE_HEAD + 8 * video.offsetRuns : 0) +
    (TABLE_HEAD + 12 * video.chunkRuns) +
    (TABLE_HEAD + 4 + 4 * video.samples) +
    (TABLE_HEAD + offsetBytes * video.chunks)
  );
}

function audioTrackBytes(audio: AudioTables, offsetBytes: number): number {
  return (
    TRACK_FIXED +
    AUDIO_MEDIA_HEADER +
    AUDIO_ENTRY +
    AUDIO_RUN_IN +
    (TABLE_HEAD + 8 * audio.durationRuns) +
    (TABLE_HEAD + 12 * audio.chunkRuns) +
    (TABLE_HEAD + 4 + 4 * audio.samples) +
    (TABLE_HEAD + offsetBytes * audio.chunks)
  );
}

/**
 * The container's bytes before encoding. Reordering and scene cuts are the encoder's choice, so nearly every frame is
 * taken to have its own composition offset and each keyframe interval one scene cut besides: within 3 % of the truth,
 * and rather above it.
 */
export function foreseeMp4ContainerBytes(outlook: ContainerOutlook): Bytes {
  const { video, audio } = outlook;
  const entry = video?.codec.inMp4;
  if (video && !entry) throw new RangeError(`${video.codec.name} does not go into MP4.`);
  const interleave = foreseeInterleave(outlook);
  return mp4ContainerBytes({
    payloadBytes: outlook.payloadBytes,
    video:
      video && entry
        ? {
            entry,
            samples: video.frames,
            keyframes: 2 * Math.ceil(video.frames / outlook.keyframeInterval),
            durationRuns: 1,
            offsetRuns: Math.ceil(video.frames * 0.97),
            chunks: interleave.chunks,
            chunkRuns: interleave.videoRuns,
            parameterSetBytes: entry.parameterSetBytes,
            hasColour: true,
          }
        : null,
    audio: audio && {
      samples: audio.packets,
      durationRuns: 2,
      chunks: interleave.chunks,
      chunkRuns: interleave.audioRuns,
    },
  });
}

/** Packets lie in order of time, so a chunk ends wherever the other track's next packet is due. */
function foreseeInterleave(outlook: ContainerOutlook): { chunks: number; videoRuns: number; audioRuns: number } {
  const { video, audio } = outlook;
  if (!video || !audio) {
    // One track alone is cut into chunks of a mebibyte.
    const chunks = Math.max(1, Math.ceil(outlook.payloadBytes / 2 ** 20));
    return { chunks, videoRuns: chunks, audioRuns: chunks };
  }
  const audioPerVideo = audio.packetsPerSecond / toNumber(video.rate);
  if (audioPerVideo >= 1) {
    return { chunks: video.frames, videoRuns: 2, audioRuns: countRunsOfGroups(video.frames, audioPerVideo) };
  }
  return { chunks: audio.packets, videoRuns: countRunsOfGroups(audio.packets, 1 / audioPerVideo), audioRuns: 2 };
}

/** How often the number of small packets per large one changes along `groups` of them. */
function countRunsOfGroups(groups: number, perGroup: number): number {
  // Groups hold either of two neighbouring counts; the rarer one stands alone, so each breaks a run twice.
  const fraction = perGroup - Math.floor(perGroup);
  const rarer = Math.min(fraction, 1 - fraction);
  return Math.ceil(2 * rarer * groups) + 1;
}
