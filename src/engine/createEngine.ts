import { open, readFile, rm, stat, writeFile } from 'node:fs/promises';
import path from 'node:path';
import { VIDEO_CODECS, type VideoCodec } from '../core/codec/tables.ts';
import type { MeasuredStretch } from '../core/analysis/measured.ts';
import { refuseAbsurd } from './parsing/refuseAbsurd.ts';
import { analyseArguments, edgeInterval, type AnalysisRequest } from './arguments/analyse.ts';
import { copyArguments } from './arguments/copy.ts';
import { pictureArguments, soundArguments } from './arguments/encode.ts';
import { gaugeArguments, gaugeFiles } from './arguments/gauge.ts';
import { filesOf, JOIN_LIST, joinArguments, joinList, joinPart, partArguments } from './arguments/join.ts';
import { SAFE_READING } from './arguments/input.ts';
import { MEASURE_LOGS, measureArguments } from './arguments/measure.ts';
import { standInArguments, type StandInRequest } from './arguments/standIn.ts';
import { rawFrameArguments, stillArguments, type StillRequest } from './arguments/still.ts';
import type { Engine, EngineReport, Inspection, JoinRequest, Probed, RunOptions } from './engine.ts';
import { EngineError, isEngineError } from './engineError.ts';
import { parseGauge } from './parsing/gauge.ts';
import { createGroupReader, type GroupListing } from './parsing/groups.ts';
import { createInspectionReader } from './parsing/inspection.ts';
import type { PacketTally } from './parsing/packets.ts';
import { createAnalysisReader } from './parsing/analysis.ts';
import { claimsPicture, findVideoStream, parseProbe } from './parsing/probe.ts';
import type { ProbeReport } from './parsing/report.ts';
import { createAdvanceWatch, createProgressReader } from './parsing/progress.ts';
import { parseQualityLogs } from './parsing/qualityLogs.ts';
import { parseMeanQuantiser } from './parsing/quantiser.ts';
import { explainEncodeFailure, explainReadFailure } from './parsing/readFailure.ts';
import { runProcess } from './process/runProcess.ts';

export interface EnginePaths {
  readonly ffmpeg: string;
  readonly ffprobe: string;
}

const ENCODER_OF: Readonly<Record<VideoCodec, string>> = { h264: 'libx264', hevc: 'libx265' };

/** A file that should hold so much more than it does was cut off while it was copied. */
const MISSING_SECONDS = 1;

/**
 * An engine that runs the two named programs.
 */
export function createEngine(paths: EnginePaths): Engine {
  const inspect = (file: string, signal?: AbortSignal) => inspectFile(paths, file, signal);
  return {
    report: () => reportEngine(paths),
    inspect,
    probe: (file, signal) => probeFile(inspect, file, signal),
    encodeSound: async (sound, source, output, options) => {
      await encode(paths, soundArguments(sound, source, output), options);
    },
    encodePicture: async (picture, video, run, files, options) => {
      const log = await encode(paths, pictureArguments(picture, video, run, files), options);
      return { meanQuantiser: parseMeanQuantiser(log) };
    },
    copyStreams: async (request, options) => {
      await encode(paths, copyArguments(request), options);
    },
    listGroups: (file, signal) => listGroups(paths, file, signal),
    joinGroups: (request, options) => joinGroups(paths, request, options),
    gauge: async (picture, request, source, options) => {
      await encode(paths, gaugeArguments(picture, request, source), options);
      const files = gaugeFiles(request).map((name) => path.join(options.workingFolder, name));
      const lists = await Promise.all(files.map((file) => readFile(file, 'utf8')));
      await Promise.all(files.map((file) => rm(file)));
      return lists.map(parseGauge);
    },
    analyse: (request, options) => analyse(paths, request, options),
    measure: async (picture, master, result, options) => {
      const logs = Object.values(MEASURE_LOGS).map((name) => path.join(options.workingFolder, name));
      await encode(paths, measureArguments(picture, master, result), options);
      const [ssim, psnr] = await Promise.all(logs.map((log) => readFile(log, 'utf8')));
      await Promise.all(logs.map((log) => rm(log)));
      return parseQualityLogs(ssim ?? '', psnr ?? '');
    },
    standIn: (request, signal) => makeStandIn(paths, request, signal),
    still: (request, signal) => takeFrame(paths, stillArguments(request), request, signal),
    rawFrame: (request, signal) => takeFrame(paths, rawFrameArguments(request), request, signal),
  };
}

/** A program that is asked what it is answers soon. */
const ASKING = { timeLimitMs: 60_000 };

async function reportEngine(paths: EnginePaths): Promise<EngineReport> {
  try {
    const version = await runProcess({ ...ASKING, file: paths.ffmpeg, arguments: ['-hide_banner', '-version'] });
    const listed = await runProcess({ ...ASKING, file: paths.ffmpeg, arguments: ['-hide_banner', '-encoders'] });
    await runProcess({ ...ASKING, file: paths.ffprobe, arguments: ['-hide_banner', '-version'] });
    const names = new Set(listed.stdout.toString('utf8').split(/\s+/));
    const encoders = VIDEO_CODECS.filter((codec) => names.has(ENCODER_OF[codec]));
    const missing = VIDEO_CODECS.filter((codec) => !encoders.includes(codec));
    return {
      version: /version (\S+)/.exec(version.stdout.toString('utf8'))?.[1] ?? 'unknown',
      encoders,
      problem:
        missing.length > 0
          ? `This engine was built without ${missing.map((codec) => ENCODER_OF[codec]).join(' and ')}.`
          : null,
    };
  } catch (error) {
    if (isEngineError(error)) return { version: null, encoders: [], problem: error.message };
    throw error;
  }
}

async function inspectFile(paths: EnginePaths, file: string, signal?: AbortSignal): Promise<Inspection> {
  const reader = createInspectionReader();
  const result = await runProcess({
    file: paths.ffprobe,
    // One run for all: starting the program takes longer than reading a short file.
    arguments: [
      ...['-hide_banner', '-loglevel', 'error', ...SAFE_READING],
      ...['-show_entries', 'packet=codec_type,stream_index,pts_time,duration_time,size,flags'],
      ...['-show_format', '-show_streams', '-show_chapters', '-of', 'json=compact=1', `file:${file}`],
    ],
    onLine: reader.read,
    memoryLimitBytes: MEMORY_LIMIT_BYTES,
    silenceLimitMs: SILENCE_LIMIT_MS,
    ...(signal ? { signal } : {}),
  });
  if (result.exitCode !== 0) {
    const { code, message } = explainReadFailure(await readHead(file), result.stderr);
    throw new EngineError(code, message, { stderr: result.stderr });
  }
  return reader.finish();
}

async function probeFile(inspect: Engine['inspect'], file: string, signal?: AbortSignal): Promise<Probed> {
  const { size } = await stat(file);
  if (size === 0) {
    throw new EngineError('file-empty', 'This file is empty (0 bytes); copy or export it again.');
  }
  const { report, tallies } = await inspect(file, signal);
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
  const spent = facts.video ? (tallies.get(facts.video.index)?.bytesByStep ?? []) : [];
  return { facts, frameTimes, spent, raw: report };
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

async function encode(paths: EnginePaths, args: readonly string[], options: RunOptions): Promise<string> {
  const result = await runProcess({
    file: paths.ffmpeg,
    arguments: args,
    workingFolder: options.workingFolder,
    signal: options.signal,
    onLine: createProgressReader(options.onProgress),
    memoryLimitBytes: ENCODE_MEMORY_BYTES,
    silenceLimitMs: NO_NEW_FRAME_MS,
    isSignOfLife: createAdvanceWatch(),
  }).catch((error: unknown) => {
    if (!isEngineError(error) || error.code !== 'engine-silent') throw error;
    const message =
      'No new frame came out for two minutes, so the encoder was ended. The master may be damaged there, or the encoder was held up from outside; run it again.';
    throw new EngineError('engine-silent', message, { stderr: error.stderrTail, cause: error });
  });
  // A full disk can end with exit code 0, so the log is read as well.
  if (result.exitCode !== 0 || /No space left on device/.test(result.stderr)) {
    const { code, message } = explainEncodeFailure(result.stderr);
    throw new EngineError(code, message, { stderr: result.stderr });
  }
  return result.stderr;
}

async function listGroups(paths: EnginePaths, file: string, signal: AbortSignal): Promise<GroupListing> {
  const reader = createGroupReader();
  const result = await runProcess({
    file: paths.ffprobe,
    arguments: [
      ...['-hide_banner', '-loglevel', 'error', ...SAFE_READING, '-select_streams', 'v:0', '-show_data_hash', 'md5'],
      ...['-show_entries', 'stream=extradata_hash:packet=pts_time,dts_time,size,flags', '-of', 'compact'],
      `file:${file}`,
    ],
    onLine: reader.read,
    memoryLimitBytes: MEMORY_LIMIT_BYTES,
    silenceLimitMs: SILENCE_LIMIT_MS,
    signal,
  });
  if (result.exitCode !== 0) {
    throw new EngineError('engine-failed', 'A finished pass could not be read back.', { stderr: result.stderr });
  }
  return reader.finish();
}

async function joinGroups(paths: EnginePaths, request: JoinRequest, options: RunOptions): Promise<void> {
  const { picture, sources, groups, sound, output } = request;
  const files = filesOf(sources);
  const inFolder = (name: string) => path.join(options.workingFolder, name);
  const quiet = { ...options, onProgress: () => undefined };
  try {
    for (const [index, file] of files.entries()) await encode(paths, partArguments(file, joinPart(index)), quiet);
    await writeFile(inFolder(JOIN_LIST), joinList(sources, groups));
    await encode(paths, joinArguments(picture, sound, output), options);
  } finally {
    await Promise.all(
      [JOIN_LIST, ...files.map((_, index) => joinPart(index))].map((name) => rm(inFolder(name), { force: true })),
    );
  }
}

/** The largest pictures at the most thorough settings take less; what asks for more is damaged or absurd. */
const ENCODE_MEMORY_BYTES = 12_000_000_000;

/** An encoder that gets no further for so long stands still. */
const NO_NEW_FRAME_MS = 120_000;

/** One frame, or a few seconds of a stand-in. */
const PICTURE_LIMITS = { memoryLimitBytes: 4_000_000_000, timeLimitMs: 120_000 };

/** Looking at a file and analysing it may take this much. */
const MEMORY_LIMIT_BYTES = 8_000_000_000;

/** A frame or a packet is written at least this often, also where everything else has the machine. */
const SILENCE_LIMIT_MS = 90_000;

/** Progress is told this often: every frame would be a flood. */
const FRAMES_PER_REPORT = 50;

async function analyse(
  paths: EnginePaths,
  request: AnalysisRequest,
  options: Parameters<Engine['analyse']>[1],
): Promise<MeasuredStretch> {
  const { picture, sound, stretch } = request;
  const reader = createAnalysisReader(stretch, sound?.channels ?? 0);
  let reported = 0;
  const result = await runProcess({
    file: paths.ffmpeg,
    arguments: analyseArguments(request),
    workingFolder: options.workingFolder,
    signal: options.signal,
    onLine: reader.readPacket,
    onLogLine: (line) => {
      const taken = reader.readLog(line);
      if (reader.framesRead() >= reported + FRAMES_PER_REPORT) options.onFrames((reported = reader.framesRead()));
      return taken;
    },
    isGentle: true,
    memoryLimitBytes: MEMORY_LIMIT_BYTES,
    silenceLimitMs: SILENCE_LIMIT_MS,
  });
  if (result.exitCode !== 0) {
    const { code, message } = explainEncodeFailure(result.stderr);
    throw new EngineError(code, message, { stderr: result.stderr });
  }
  return {
    inFrame: stretch.inFrame,
    picture: picture && reader.picture(picture.size, edgeInterval(stretch, picture.frameRate)),
    sound: sound && reader.sound(),
  };
}

async function makeStandIn(paths: EnginePaths, request: StandInRequest, signal?: AbortSignal): Promise<Buffer> {
  const result = await runProcess({
    file: paths.ffmpeg,
    arguments: standInArguments(request),
    ...PICTURE_LIMITS,
    ...(signal ? { signal } : {}),
  });
  if (result.exitCode !== 0 || result.stdout.length === 0) {
    const from = request.piece.startSeconds.toFixed(1);
    throw new EngineError(
      'frame-unreadable',
      `The master cannot be decoded from ${from} s on; it may be damaged there.`,
      {
        stderr: result.stderr,
      },
    );
  }
  return result.stdout;
}

async function takeFrame(
  paths: EnginePaths,
  args: readonly string[],
  request: StillRequest,
  signal?: AbortSignal,
): Promise<Buffer> {
  const result = await runProcess({
    file: paths.ffmpeg,
    arguments: args,
    ...PICTURE_LIMITS,
    ...(signal ? { signal } : {}),
  });
  if (result.exitCode !== 0) {
    throw new EngineError(
      'frame-unreadable',
      `Frame ${request.frame} cannot be decoded; the file may be damaged there.`,
      {
        stderr: result.stderr,
      },
    );
  }
  if (result.stdout.length === 0) {
    throw new EngineError('frame-outside', `There is no frame ${request.frame} in this file.`, {
      stderr: result.stderr,
    });
  }
  return result.stdout;
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
