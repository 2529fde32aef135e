import { open, stat } from 'node:fs/promises';
import { SAFE_READING } from '../arguments/input.ts';
import type { ProgrammeFacts } from '../../core/programme/facts.ts';
import type { Inspection, Probed } from '../engine.ts';
import { EngineError } from '../engineError.ts';
import type { TimedPacket } from '../../core/rate/bufferModel.ts';
import { createInspectionReader } from '../parsing/inspection.ts';
import type { PacketTally } from '../parsing/packets.ts';
import { claimsPicture, findVideoStream, parseProbe } from '../parsing/probe.ts';
import { explainReadFailure } from '../parsing/readFailure.ts';
import { createPacketReader } from '../parsing/timedPackets.ts';
import { refuseAbsurd } from '../parsing/refuseAbsurd.ts';
import { lightOf } from '../parsing/probeVideo.ts';
import { readFrameLight, type ProbeReport } from '../parsing/report.ts';
import { runProcess } from '../process/runProcess.ts';
import { READING_LIMITS, type EnginePaths } from './limits.ts';

/** A file that should hold so much more than it does was cut off while it was copied. */
const MISSING_SECONDS = 1;

/**
 * A file's report, and every packet counted and timed.
 *
 * @param lost - Pictures that cannot be decoded, by their time on the file's clock in seconds.
 */
async function readPackets(
  paths: EnginePaths,
  file: string,
  signal?: AbortSignal,
  lost?: ReadonlySet<number>,
): Promise<Inspection> {
  const reader = createInspectionReader(lost);
  const result = await runProcess({
    file: paths.ffprobe,
    // One run for all: starting the program takes longer than reading a short file.
    arguments: [
      ...['-hide_banner', '-loglevel', 'error', ...SAFE_READING],
      ...['-show_entries', 'packet=codec_type,stream_index,pts_time,duration_time,size,flags'],
      ...['-show_format', '-show_streams', '-show_chapters', '-of', 'json=compact=1', `file:${file}`],
    ],
    onLine: reader.read,
    ...READING_LIMITS,
    ...(signal ? { signal } : {}),
  });
  if (result.exitCode !== 0) {
    const { code, message } = explainReadFailure(await readHead(file), result.stderr);
    throw new EngineError(code, message, { stderr: result.stderr });
  }
  return reader.finish();
}

/** The packets of a result's picture, in the order they are decoded. */
export async function timePackets(paths: EnginePaths, file: string, signal?: AbortSignal): Promise<TimedPacket[]> {
  const reader = createPacketReader();
  const result = await runProcess({
    file: paths.ffprobe,
    arguments: [
      ...['-hide_banner', '-loglevel', 'error', ...SAFE_READING, '-select_streams', 'v:0'],
      ...['-show_entries', 'packet=dts_time,size', '-of', 'compact', `file:${file}`],
    ],
    onLine: reader.read,
    ...READING_LIMITS,
    ...(signal ? { signal } : {}),
  });
  if (result.exitCode !== 0) {
    throw new EngineError('engine-failed', 'A result could not be read back.', { stderr: result.stderr });
  }
  return reader.finish();
}

/**
 * A file's facts.
 *
 * @throws EngineError for what is no programme, with the reason.
 */
export async function probeFile(paths: EnginePaths, file: string, signal?: AbortSignal): Promise<Probed> {
  const { size } = await stat(file);
  if (size === 0) {
    throw new EngineError('file-empty', 'This file is empty (0 bytes); copy or export it again.');
  }
  const { report, tallies } = await inspectFile(paths, file, signal);
  const { facts, frameTimes } = readFacts(report, size, tallies);
  if (!facts.video && claimsPicture(report)) {
    throw new EngineError(
      'file-damaged',
      'This file says that it holds a picture, but none of its frames can be found: its index is damaged. Copy or export it again.',
    );
  }
  if (!facts.video && facts.audio.length === 0) {
    throw new EngineError('file-not-media', 'This file holds neither a moving picture nor sound.');
  }
  refuseAbsurd(facts);
  refuseCutOff(report, tallies);
  refuseJoined(facts, tallies);
  const spent = facts.video ? (tallies.get(facts.video.index)?.bytesByStep ?? []) : [];
  return { facts, frameTimes, spent, raw: report };
}

/** A file looked at without decoding more than a frame of it: its report, and every packet counted and timed. */
export async function inspectFile(paths: EnginePaths, file: string, signal?: AbortSignal): Promise<Inspection> {
  const inspection = await readShown(paths, file, signal);
  return { ...inspection, report: await withLight(paths, file, inspection.report, signal) };
}

/**
 * Broadcasts and captures may be cut anywhere: of what comes before the first keyframe then, some is in the file and no decoder shows it.
 * Which, it is asked.
 */
async function readShown(paths: EnginePaths, file: string, signal?: AbortSignal): Promise<Inspection> {
  const inspection = await readPackets(paths, file, signal);
  const stream = findVideoStream(inspection.report);
  const { times = [], keyframeTimes = [] } = (stream && inspection.tallies.get(stream.index)) ?? {};
  const [first, keyframe] = [times[0], keyframeTimes[0]];
  if (!stream || first === undefined || keyframe === undefined || first >= keyframe) return inspection;
  const shown = await decodedTimes(paths, file, stream.index, keyframe - first + DECODED_BEYOND, signal);
  const lost = times.filter((time) => time < keyframe && !shown.has(time));
  return lost.length === 0 || shown.size === 0 ? inspection : readPackets(paths, file, signal, new Set(lost));
}

/** A decoder may hold the first picture back until it has read some more, in seconds. */
const DECODED_BEYOND = 1;

/**
 * When each picture of a stream's beginning is shown, as it comes out of its decoder, on the file's clock.
 *
 * @param seconds - How much is read.
 */
async function decodedTimes(
  paths: EnginePaths,
  file: string,
  stream: number,
  seconds: number,
  signal?: AbortSignal,
): Promise<Set<number>> {
  const times = new Set<number>();
  const shown = ['-read_intervals', `%+${seconds.toFixed(3)}`, '-show_entries', 'frame=pts_time', '-of', 'csv=p=0'];
  const read = (line: string) => {
    const time = parseFloat(line);
    if (Number.isFinite(time)) times.add(time);
  };
  await showFrames(paths, file, stream, shown, read, signal);
  return times;
}

/**
 * What decoded frames of a stream say.
 *
 * @param shown - Which frames, what of them, and in which form.
 */
async function showFrames(
  paths: EnginePaths,
  file: string,
  stream: number,
  shown: readonly string[],
  onLine: (line: string) => void,
  signal?: AbortSignal,
): Promise<void> {
  await runProcess({
    file: paths.ffprobe,
    arguments: [
      ...['-hide_banner', '-loglevel', 'quiet', ...SAFE_READING, '-select_streams', `${stream}`],
      ...[...shown, `file:${file}`],
    ],
    onLine,
    ...READING_LIMITS,
    ...(signal ? { signal } : {}),
  });
}

/** How bright a picture gets may be told in the picture itself alone, with its first frame. */
async function withLight(
  paths: EnginePaths,
  file: string,
  report: ProbeReport,
  signal?: AbortSignal,
): Promise<ProbeReport> {
  const stream = findVideoStream(report);
  if (stream?.color_transfer !== 'smpte2084' || lightOf(stream.side_data_list ?? [])) return report;
  let said = '';
  const shown = ['-read_intervals', '%+#1', '-show_entries', 'frame_side_data', '-of', 'json'];
  await showFrames(paths, file, stream.index, shown, (line) => (said += line), signal);
  const found = readFrameLight(said);
  const told = { ...stream, side_data_list: [...(stream.side_data_list ?? []), ...found] };
  return { ...report, streams: (report.streams ?? []).map((one) => (one === stream ? told : one)) };
}

/** Numbers that are none are the file's fault. */
function readFacts(...given: Parameters<typeof parseProbe>): ReturnType<typeof parseProbe> {
  try {
    return parseProbe(...given);
  } catch (error) {
    if (!(error instanceof RangeError)) throw error;
    const message = 'Times or rates in this file cannot be: its header is damaged. Export it again.';
    throw new EngineError('file-absurd', message, { cause: error });
  }
}

/** The index may promise more than the file holds; that is found only by counting. */
function refuseCutOff(report: ProbeReport, tallies: Map<number, PacketTally>): void {
  const stream = findVideoStream(report) ?? report.streams?.find((candidate) => candidate.codec_type === 'audio');
  if (!stream) return;
  const tally = tallies.get(stream.index);
  const ofStream = Number(stream.duration);
  const start = Number(report.format?.start_time ?? 0) || 0;
  // What is promised for the file as a whole may be another track's, and is counted from the file's own zero.
  const [promised, lastEnd] = Number.isFinite(ofStream)
    ? [ofStream, tally?.endSeconds ?? NaN]
    : [
        Number(report.format?.duration) - start,
        Math.max(...Array.from(tallies.values(), (one) => one.endSeconds ?? 0)),
      ];
  const end = lastEnd - start;
  const packetsMissing = Number(stream.nb_frames) - (tally?.packets ?? 0);
  if (promised - end > Math.max(MISSING_SECONDS, promised * 0.02) && !(packetsMissing <= 0)) {
    throw new EngineError(
      'file-cut-off',
      `This file is cut off: it ends after ${end.toFixed(1)} s of ${promised.toFixed(1)} s. Copy or export it again.`,
    );
  }
}

/** Frames could be found neither by their time nor by counting: times of several recordings lie over one another. */
function refuseJoined({ video, audio }: ProgrammeFacts, tallies: Map<number, PacketTally>): void {
  const streams = [...(video ? [video] : []), ...audio];
  if (!streams.some(({ index }) => tallies.get(index)?.beginsAnew)) return;
  throw new EngineError(
    'file-absurd',
    'Times begin anew in the middle of this file, as if several recordings were put behind one another. Bring each in by itself, or export them as one.',
  );
}

async function readHead(file: string): Promise<string> {
  const handle = await open(file);
  try {
    const { buffer, bytesRead } = await handle.read(Buffer.alloc(64), 0, 64, 0);
    return buffer.subarray(0, bytesRead).toString('latin1');
  } finally {
    await handle.close();
  }
}
