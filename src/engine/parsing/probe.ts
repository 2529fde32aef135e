import { isWritersWord } from '../../core/programme/handlerName.ts';
import type { AudioFacts, CaptionFacts, Chapter, ProgrammeFacts } from '../../core/programme/facts.ts';
import { rational } from '../../core/timing/rational.ts';
import { nameFoundContainer } from '../muxers/foundContainer.ts';
import type { PacketTally } from './packets.ts';
import { parseVideo, rotationOf } from './probeVideo.ts';
import { known, numberOf, tagOf, type ProbeReport, type ProbeStream } from './report.ts';
import { measureTiming } from './timing.ts';

/** Written by the container's own bookkeeping; they say nothing to a person beside the facts. */
const BOOKKEEPING = /^(major_brand|minor_version|compatible_brands|duration|bps|number_of_|_statistics|handler_name)/i;

/** The first stream with a moving picture; cover art is none. */
export function findVideoStream(report: ProbeReport): ProbeStream | null {
  return (
    report.streams?.find(
      (stream) => stream.codec_type === 'video' && stream.disposition?.attached_pic !== 1 && (stream.width ?? 0) > 0,
    ) ?? null
  );
}

/** Whether a file says that it holds a moving picture; cover art is none. */
export function claimsPicture(report: ProbeReport): boolean {
  return (report.streams ?? []).some(
    (stream) => stream.codec_type === 'video' && stream.disposition?.attached_pic !== 1,
  );
}

/**
 * Turns the engine's report and the counted packets into facts.
 *
 * @param bytes - Size of the file.
 * @param tallies - By stream index; the picture's with its times.
 * @returns The times of the frames beside the facts where the rate varies: they are many.
 */
export function parseProbe(
  report: ProbeReport,
  bytes: number,
  tallies: Map<number, PacketTally>,
): { readonly facts: ProgrammeFacts; readonly frameTimes: readonly number[] | null } {
  const fileStart = numberOf(report.format?.start_time) ?? 0;
  const stream = findVideoStream(report);
  const audio = (report.streams ?? [])
    .filter((candidate) => candidate.codec_type === 'audio' && (candidate.channels ?? 0) > 0)
    .map((candidate) => parseAudio(candidate, tallies.get(candidate.index), report, fileStart));
  const base = {
    container: nameContainer(report),
    bytes,
    audio,
    captions: parseCaptions(report),
    sidecars: [],
    chapters: parseChapters(report, fileStart),
    startTimecode: findTimecode(report),
    metadata: parseMetadata(report),
  };
  const tally = stream ? tallies.get(stream.index) : undefined;
  if (!stream || !tally || tally.packets === 0) {
    const durationSeconds = Math.max(0, ...audio.map((track) => track.durationSeconds));
    const none = { frameCount: 0, frameRate: rational(0, 1), width: 0, height: 0, video: null };
    return { facts: { ...base, durationSeconds, ...none }, frameTimes: null };
  }
  const timing = measureTiming(stream, tally);
  const isTurned = rotationOf(stream) % 180 === 90;
  const [width, height] = [stream.width ?? 0, stream.height ?? 0];
  const facts = {
    ...base,
    durationSeconds: timing.durationSeconds,
    frameCount: tally.packets,
    frameRate: timing.rate,
    width: isTurned ? height : width,
    height: isTurned ? width : height,
    video: parseVideo(stream, tally, timing, fileStart, report.format?.format_name ?? ''),
  };
  return { facts, frameTimes: timing.frameTimes };
}

function nameContainer({ format, streams }: ProbeReport): string {
  return nameFoundContainer({
    family: format?.format_name ?? '',
    brand: tagOf(format?.tags, 'major_brand'),
    codecs: (streams ?? []).map(({ codec_name }) => codec_name ?? ''),
  });
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
    layout: known(stream.channel_layout),
    sampleRate: numberOf(stream.sample_rate) ?? 0,
    bitDepth: Number(stream.bits_per_raw_sample) || stream.bits_per_sample || null,
    language: languageOf(stream),
    title: tagOf(stream.tags, 'title') ?? nameOfHandler(stream),
    startSeconds: Math.max(0, start - fileStart),
    durationSeconds,
    bitsPerSecond: tally && durationSeconds > 0 ? Math.round((tally.bytes * 8) / durationSeconds) : null,
  };
}

function parseCaptions(report: ProbeReport): CaptionFacts[] {
  return (report.streams ?? [])
    .filter((stream) => stream.codec_type === 'subtitle')
    .map((stream) => ({
      index: stream.index,
      codec: stream.codec_name ?? 'unknown',
      language: languageOf(stream),
    }));
}

function parseChapters(report: ProbeReport, fileStart: number): Chapter[] {
  return (report.chapters ?? []).map((chapter, index) => ({
    startSeconds: Math.max(0, (numberOf(chapter.start_time) ?? 0) - fileStart),
    endSeconds: Math.max(0, (numberOf(chapter.end_time) ?? 0) - fileStart),
    title: tagOf(chapter.tags, 'title') ?? `Chapter ${index + 1}`,
  }));
}

/** The picture's own tag or the timecode track's, whichever the writer left. */
function findTimecode(report: ProbeReport): string | null {
  const places = [
    findVideoStream(report)?.tags,
    ...(report.streams ?? []).map((stream) => stream.tags),
    report.format?.tags,
  ];
  return places.map((tags) => tagOf(tags, 'timecode')).find((timecode) => timecode !== null) ?? null;
}

function parseMetadata(report: ProbeReport): Record<string, string> {
  // Ogg has no place for a file's own; what it tells lies with its first stream (RFC 3533 and the mappings of its codecs).
  const { format, streams = [] } = report;
  const lying = format?.format_name === 'ogg' ? streams[0]?.tags : {};
  const tags = Object.entries({ ...lying, ...format?.tags });
  return Object.fromEntries(tags.filter(([name, value]) => !BOOKKEEPING.test(name) && value.trim() !== ''));
}

/** QuickTime and MP4 keep a track's name in its handler; most writers leave a word of their own there. */
function nameOfHandler(stream: ProbeStream): string | null {
  const name = tagOf(stream.tags, 'handler_name');
  return name === null || isWritersWord(name) ? null : name;
}

function languageOf(stream: ProbeStream): string | null {
  const language = tagOf(stream.tags, 'language');
  return language === 'und' ? null : language;
}
