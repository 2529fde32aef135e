import type { AudioFacts, ColourTags, ProgrammeFacts, VideoFacts } from '../../core/programme/facts.ts';
import { snapFrameRate } from '../../core/timing/frameRate.ts';
import { framesToSeconds, parseRational, rational, toNumber, type Rational } from '../../core/timing/rational.ts';
import type { PacketTally } from './packets.ts';

/** The part of the engine's report that is read. */
export interface ProbeReport {
  readonly format?: {
    readonly format_name?: string;
    readonly duration?: string;
    readonly start_time?: string;
  };
  readonly streams?: readonly ProbeStream[];
}

export interface ProbeStream {
  readonly index: number;
  readonly codec_type?: string;
  readonly codec_name?: string;
  readonly profile?: string;
  readonly width?: number;
  readonly height?: number;
  readonly pix_fmt?: string;
  readonly bits_per_raw_sample?: string;
  readonly sample_aspect_ratio?: string;
  readonly avg_frame_rate?: string;
  readonly r_frame_rate?: string;
  readonly field_order?: string;
  readonly color_space?: string;
  readonly color_primaries?: string;
  readonly color_transfer?: string;
  readonly color_range?: string;
  readonly start_time?: string;
  readonly duration?: string;
  readonly nb_frames?: string;
  readonly channels?: number;
  readonly sample_rate?: string;
  readonly bit_rate?: string;
  readonly disposition?: { readonly attached_pic?: number };
  readonly side_data_list?: readonly { readonly rotation?: number }[];
}

/** The trade's names for containers, by the engine's. */
const CONTAINER_NAMES: readonly (readonly [part: string, name: string])[] = [
  ['mov', 'MP4 or QuickTime'],
  ['matroska', 'Matroska or WebM'],
  ['mpegts', 'MPEG transport stream'],
  ['mxf', 'MXF'],
  ['avi', 'AVI'],
  ['wav', 'WAV'],
  ['flac', 'FLAC'],
  ['mp3', 'MP3'],
  ['ogg', 'Ogg'],
];

/** Containers with an index: others are searched by guesswork and land on the wrong keyframe. */
const INDEXED = /mov|matroska|avi|mxf/;

/** The first stream with a moving picture; cover art is none. */
export function findVideoStream(report: ProbeReport): ProbeStream | null {
  return (
    report.streams?.find(
      (stream) => stream.codec_type === 'video' && stream.disposition?.attached_pic !== 1 && (stream.width ?? 0) > 0,
    ) ?? null
  );
}

/**
 * Turns the engine's report and the counted packets into facts.
 *
 * @param bytes - Size of the file.
 * @param tallies - By stream index; the picture's with its times.
 */
export function parseProbe(report: ProbeReport, bytes: number, tallies: Map<number, PacketTally>): ProgrammeFacts {
  const fileStart = numberOf(report.format?.start_time) ?? 0;
  const stream = findVideoStream(report);
  const audio = (report.streams ?? [])
    .filter((candidate) => candidate.codec_type === 'audio' && (candidate.channels ?? 0) > 0)
    .map((candidate) => parseAudio(candidate, tallies.get(candidate.index), report, fileStart));
  const container = report.format?.format_name ?? '';
  const base = {
    container: CONTAINER_NAMES.find(([part]) => container.includes(part))?.[1] ?? container,
    bytes,
    audio,
  };
  const tally = stream ? tallies.get(stream.index) : undefined;
  if (!stream || !tally || tally.packets === 0) {
    const durationSeconds = Math.max(0, ...audio.map((track) => track.durationSeconds));
    return { ...base, durationSeconds, frameCount: 0, frameRate: rational(0, 1), width: 0, height: 0, video: null };
  }
  const timing = measureTiming(stream, tally);
  const rotation =
    (((stream.side_data_list?.find((data) => data.rotation !== undefined)?.rotation ?? 0) % 360) + 360) % 360;
  const isTurned = rotation % 180 === 90;
  const [width, height] = [stream.width ?? 0, stream.height ?? 0];
  return {
    ...base,
    durationSeconds: timing.durationSeconds,
    frameCount: tally.packets,
    frameRate: timing.rate,
    width: isTurned ? height : width,
    height: isTurned ? width : height,
    video: parseVideo(stream, tally, timing, rotation, fileStart, container),
  };
}

interface Timing {
  readonly rate: Rational;
  readonly constant: boolean;
  readonly durationSeconds: number;
}

/** Header rates are believed only where the timestamps bear them out. */
function measureTiming(stream: ProbeStream, tally: PacketTally): Timing {
  const claimed =
    parseRational(stream.r_frame_rate ?? '') ?? parseRational(stream.avg_frame_rate ?? '') ?? rational(25, 1);
  const { times } = tally;
  if (times.length < 2 || times.length < tally.packets) {
    const rate = snapFrameRate(toNumber(parseRational(stream.avg_frame_rate ?? '') ?? claimed));
    return { rate, constant: true, durationSeconds: framesToSeconds(tally.packets, rate) };
  }
  const length = times.at(-1)! - times[0]!;
  const mean = (times.length - 1) / length;
  for (const rate of [snapFrameRate(toNumber(claimed)), snapFrameRate(mean)]) {
    if (isConstantAt(times, rate)) {
      return { rate, constant: true, durationSeconds: framesToSeconds(tally.packets, rate) };
    }
  }
  const end = tally.endSeconds ?? times.at(-1)!;
  return { rate: snapFrameRate(mean), constant: false, durationSeconds: Math.max(end - times[0]!, length) };
}

function isConstantAt(times: readonly number[], rate: Rational): boolean {
  const first = times[0]!;
  const half = 0.5 / toNumber(rate);
  return times.every((time, index) => Math.abs(time - first - framesToSeconds(index, rate)) < half);
}

function parseVideo(
  stream: ProbeStream,
  tally: PacketTally,
  timing: Timing,
  rotation: number,
  fileStart: number,
  formatName: string,
): VideoFacts {
  const aspect = parseRational(stream.sample_aspect_ratio ?? '') ?? rational(1, 1);
  const pixelFormat = stream.pix_fmt ?? 'unknown';
  return {
    index: stream.index,
    codec: stream.codec_name ?? 'unknown',
    profile: known(stream.profile),
    pixelFormat,
    bitDepth: bitDepthOf(pixelFormat, stream.bits_per_raw_sample),
    pixelAspect: rotation % 180 === 90 ? rational(aspect.den, aspect.num) : aspect,
    colour: parseColour(stream),
    interlaced: !['progressive', 'unknown', undefined].includes(stream.field_order),
    rotation,
    startSeconds: Math.max(0, (tally.firstSeconds ?? fileStart) - fileStart),
    constantRate: timing.constant,
    seeksExactly: timing.constant && INDEXED.test(formatName),
    bitsPerSecond: timing.durationSeconds > 0 ? Math.round((tally.bytes * 8) / timing.durationSeconds) : null,
    keyframes: tally.keyframes,
  };
}

function parseAudio(
  stream: ProbeStream,
  tally: PacketTally | undefined,
  report: ProbeReport,
  fileStart: number,
): AudioFacts {
  const start = tally?.firstSeconds ?? numberOf(stream.start_time) ?? fileStart;
  const counted = tally?.endSeconds != null ? tally.endSeconds - start : null;
  const durationSeconds = counted ?? numberOf(stream.duration) ?? numberOf(report.format?.duration) ?? 0;
  return {
    index: stream.index,
    codec: stream.codec_name ?? 'unknown',
    channels: stream.channels ?? 0,
    sampleRate: numberOf(stream.sample_rate) ?? 0,
    startSeconds: Math.max(0, start - fileStart),
    durationSeconds,
    bitsPerSecond: tally && durationSeconds > 0 ? Math.round((tally.bytes * 8) / durationSeconds) : null,
  };
}

function parseColour(stream: ProbeStream): ColourTags {
  const isFull = stream.color_range === 'pc' || stream.pix_fmt?.startsWith('yuvj') === true;
  const isRgb = /^(gbr|rgb|bgr|argb|abgr)/.test(stream.pix_fmt ?? '');
  return {
    primaries: known(stream.color_primaries),
    transfer: known(stream.color_transfer),
    matrix: known(stream.color_space),
    range: isFull || isRgb ? 'full' : stream.color_range === 'tv' ? 'limited' : null,
  };
}

function bitDepthOf(pixelFormat: string, raw: string | undefined): number {
  const named = /p(9|10|12|14|16)(le|be)?$/.exec(pixelFormat);
  if (named) return Number(named[1]);
  const counted = Number(raw);
  return counted > 8 && counted <= 16 ? counted : 8;
}

function known(text: string | undefined): string | null {
  return text === undefined || ['unknown', 'unspecified', 'reserved', ''].includes(text) ? null : text;
}

function numberOf(text: string | undefined): number | null {
  const value = Number(text);
  return text !== undefined && Number.isFinite(value) ? value : null;
}
