import { toNumber } from '../timing/rational.ts';
import { bytes, type Bytes } from '../units.ts';
import type { Mp4SoundEntry } from '../sound/definition.ts';
import type { Mp4Entry } from '../video/definition.ts';
import type { ContainerOutlook, SoundOutlook } from './definition.ts';

/**
 * The bytes of an MP4 file that are neither picture nor sound, from its tables (ISO/IEC 14496-12 for the boxes,
 * 14496-14 for `esds`, 14496-15 for `avcC` and `hvcC`, the AV1 and Opus mappings for theirs, and the QuickTime file
 * format where a dialect differs): index first, at most one picture track, then the sounds.
 */
export interface Mp4Tables {
  readonly video: VideoTables | null;
  readonly sounds: readonly AudioTables[];
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
  readonly entry: Mp4SoundEntry;
  /** null for compressed sound. */
  readonly bitDepth: number | null;
  readonly samples: number;
  /** False where all packets are of one size and the table of sizes is left out. */
  readonly sizesVary: boolean;
  readonly durationRuns: number;
  readonly chunks: number;
  readonly chunkRuns: number;
}

/** What files of one family say differently. */
export interface Mp4Dialect {
  /** `ftyp`, and what stands before `mdat`. */
  readonly fileBytes: number;
  /** Whether `ftyp` names brands of the picture's codec. */
  readonly hasBrands: boolean;
  /** A handler of data in every track. */
  readonly dataHandlerBytes: number;
  /** `btrt` in every sample entry. */
  readonly bitRateBytes: number;
  readonly colourBytes: number;
  /** The sound's sample entry, with its boxes. */
  readonly soundEntryBytes: (entry: Mp4SoundEntry, bitDepth: number | null) => number;
}

/** `ftyp` with three brands, `udta` and `free`. */
const ISO_FILE_BYTES = 28 + 61 + 8;

/** MP4 as our engine writes it. */
export const MP4_DIALECT: Mp4Dialect = {
  fileBytes: ISO_FILE_BYTES,
  hasBrands: true,
  dataHandlerBytes: 0,
  bitRateBytes: 20,
  colourBytes: 19,
  soundEntryBytes: ({ isoBytes }) => isoBytes,
};

/** MP4 of sound alone. */
export const M4A_DIALECT: Mp4Dialect = { ...MP4_DIALECT, bitRateBytes: 0 };

/** QuickTime: one brand, `wide` instead of `free`, older sample entries of sound. */
export const MOV_DIALECT: Mp4Dialect = {
  fileBytes: 20 + 8,
  hasBrands: false,
  dataHandlerBytes: 44,
  bitRateBytes: 0,
  colourBytes: 18,
  soundEntryBytes: ({ quickTimeBytes }, bitDepth) => quickTimeBytes(bitDepth),
};

const FULL_BOX = 12;
const TABLE_HEAD = FULL_BOX + 4;
const MOVIE_HEADER = 8 + 108;
/** trak, tkhd, edts, mdia, mdhd, hdlr, minf, media header, dinf, stbl without their tables. */
const TRACK_FIXED = 8 + 92 + 36 + 8 + 32 + 45 + 8 + 36 + 8;
const VIDEO_MEDIA_HEADER = 20;
const AUDIO_MEDIA_HEADER = 16;
/** Sample entry (86) and `pasp` (16). */
const VIDEO_ENTRY = TABLE_HEAD + 86 + 16;
const LARGE_FILE = 2 ** 32;

/**
 * The container's bytes when every count is known: exact to the byte for files our engine wrote.
 */
export function mp4ContainerBytes(dialect: Mp4Dialect, tables: Mp4Tables): Bytes {
  const offset = tables.payloadBytes >= LARGE_FILE ? 8 : 4;
  const mdatHead = tables.payloadBytes >= LARGE_FILE ? 16 : 8;
  const video = tables.video ? videoTrackBytes(dialect, tables.video, offset) : 0;
  const sounds = tables.sounds.reduce((sum, sound) => sum + audioTrackBytes(dialect, sound, offset), 0);
  const brand = dialect.hasBrands ? (tables.video?.entry.brandBytes ?? 0) : 0;
  return bytes(dialect.fileBytes + brand + MOVIE_HEADER + video + sounds + mdatHead);
}

function videoTrackBytes(dialect: Mp4Dialect, video: VideoTables, offsetBytes: number): number {
  return (
    TRACK_FIXED +
    VIDEO_MEDIA_HEADER +
    dialect.dataHandlerBytes +
    VIDEO_ENTRY +
    dialect.bitRateBytes +
    video.parameterSetBytes +
    (video.hasColour ? dialect.colourBytes : 0) +
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

function audioTrackBytes(dialect: Mp4Dialect, audio: AudioTables, offsetBytes: number): number {
  return (
    TRACK_FIXED +
    AUDIO_MEDIA_HEADER +
    dialect.dataHandlerBytes +
    TABLE_HEAD +
    dialect.soundEntryBytes(audio.entry, audio.bitDepth) +
    dialect.bitRateBytes +
    audio.entry.runInBytes +
    (TABLE_HEAD + 8 * audio.durationRuns) +
    (TABLE_HEAD + 12 * audio.chunkRuns) +
    (TABLE_HEAD + 4 + (audio.sizesVary ? 4 * audio.samples : 0)) +
    (TABLE_HEAD + offsetBytes * audio.chunks)
  );
}

/**
 * The container's bytes before encoding. Reordering and scene cuts are the encoder's choice, so nearly every frame is
 * taken to have its own composition offset and each keyframe interval one scene cut besides: within 3 % of the truth,
 * and rather above it.
 */
export function foreseeMp4Bytes(dialect: Mp4Dialect, outlook: ContainerOutlook): Bytes {
  const { video, sounds } = outlook;
  const tracks = foreseeInterleave(outlook);
  return mp4ContainerBytes(dialect, {
    payloadBytes: outlook.payloadBytes,
    video: video && foreseeVideo(video, outlook.keyframeInterval, tracks.video),
    sounds: sounds.map((sound, index) => foreseeAudio(sound, tracks.sounds[index] ?? ONE_CHUNK)),
  });
}

function foreseeVideo(
  { codec, frames }: NonNullable<ContainerOutlook['video']>,
  keyframeInterval: number,
  { chunks, runs }: Chunks,
): VideoTables {
  const entry = codec.inMp4;
  if (!entry) throw new RangeError(`${codec.name} does not go into MP4.`);
  return {
    entry,
    samples: frames,
    keyframes: 2 * Math.ceil(frames / keyframeInterval),
    durationRuns: 1,
    offsetRuns: entry.reorders ? Math.ceil(frames * 0.97) : 0,
    chunks,
    chunkRuns: runs,
    parameterSetBytes: entry.parameterSetBytes,
    hasColour: true,
  };
}

function foreseeAudio({ codec, packets, bitDepth }: SoundOutlook, { chunks, runs }: Chunks): AudioTables {
  const entry = codec.inMp4;
  if (!entry) throw new RangeError(`${codec.name} does not go into MP4.`);
  // Bare samples lie in packets of one size, and the table of sizes is left out.
  const sizesVary = bitDepth === null;
  return { entry, bitDepth, samples: packets, sizesVary, durationRuns: 2, chunks, chunkRuns: runs };
}

/** How one track lies between the others. */
interface Chunks {
  readonly chunks: number;
  readonly runs: number;
}

const ONE_CHUNK: Chunks = { chunks: 1, runs: 1 };

/** Packets lie in order of time, so a chunk ends wherever another track's next packet is due. */
function foreseeInterleave(outlook: ContainerOutlook): { readonly video: Chunks; readonly sounds: readonly Chunks[] } {
  const { video, sounds } = outlook;
  const [sound] = sounds;
  if (sounds.length > 1 || !video || !sound) return foreseeMany(outlook);
  const soundsPerFrame = sound.packetsPerSecond / toNumber(video.rate);
  if (soundsPerFrame >= 1) {
    const { frames: chunks } = video;
    return { video: { chunks, runs: 2 }, sounds: [{ chunks, runs: countRunsOfGroups(chunks, soundsPerFrame) }] };
  }
  const { packets: chunks } = sound;
  return { video: { chunks, runs: countRunsOfGroups(chunks, 1 / soundsPerFrame) }, sounds: [{ chunks, runs: 2 }] };
}

/** Among many tracks nearly every packet lies by itself; one alone is cut into chunks of a mebibyte. */
function foreseeMany({ video, sounds, payloadBytes }: ContainerOutlook): ReturnType<typeof foreseeInterleave> {
  const counts = [video?.frames ?? 0, ...sounds.map(({ packets }) => packets)];
  const all = counts.reduce((sum, count) => sum + count, 0);
  const alone = Math.max(1, Math.ceil(payloadBytes / 2 ** 20));
  const lying = (count: number): Chunks => {
    const chunks = all === count ? alone : Math.min(count, all - count);
    return { chunks, runs: chunks };
  };
  return { video: lying(video?.frames ?? 0), sounds: sounds.map(({ packets }) => lying(packets)) };
}

/** How often the number of small packets per large one changes along `groups` of them. */
function countRunsOfGroups(groups: number, perGroup: number): number {
  // Groups hold either of two neighbouring counts; the rarer one stands alone, so each breaks a run twice.
  const fraction = perGroup - Math.floor(perGroup);
  const rarer = Math.min(fraction, 1 - fraction);
  return Math.ceil(2 * rarer * groups) + 1;
}
