import {
  CHROMA_SAMPLINGS,
  type ChromaSampling,
  type ColourTags,
  type DisplayColour,
  type LightLevels,
  type VideoFacts,
} from '../../core/programme/facts.ts';
import { isVideoCodec, VIDEO } from '../../core/video/codecs.ts';
import { parseRational, rational, toNumber } from '../../core/timing/rational.ts';
import type { PacketTally } from './packets.ts';
import { known, tagOf, type ProbeStream, type SideData } from './report.ts';
import type { Timing } from './timing.ts';

/** Containers with an index: others are searched by guesswork and may land on the wrong keyframe. */
const INDEXED = /mov|matroska|avi|mxf/;

/**
 * Where guesswork lands by the time of a packet, a keyframe comes within one keyframe distance, and this much more is
 * for what lies between the packets of streams (25 random frames each of seven streams in four codecs came out right).
 */
const SOUGHT_BY_TIME = /mpegts|flv/;
const LANDING_SECONDS = 2;

/** With keyframes further apart, or a first frame that is none, frames are counted. */
const MOST_LEAD_SECONDS = 20;

/**
 * Facts of the picture.
 *
 * @param fileStart - Where the file's earliest stream begins, in seconds.
 * @param formatName - The engine's name of the container.
 */
export function parseVideo(
  stream: ProbeStream,
  tally: PacketTally,
  timing: Timing,
  fileStart: number,
  formatName: string,
): VideoFacts {
  const aspect = parseRational(stream.sample_aspect_ratio ?? '') ?? rational(1, 1);
  const pixelFormat = stream.pix_fmt ?? 'unknown';
  const rotation = rotationOf(stream);
  const keyframeDistance = distancesOf(tally);
  const lead = leadOf(tally, timing, keyframeDistance, formatName);
  return {
    index: stream.index,
    codec: stream.codec_name ?? 'unknown',
    profile: known(stream.profile),
    level: nameLevel(stream),
    pixelFormat,
    bitDepth: bitDepthOf(pixelFormat, stream.bits_per_raw_sample),
    chroma: chromaOf(pixelFormat),
    alpha:
      tagOf(stream.tags, 'alpha_mode') === '1' || /^(yuva|rgba|argb|bgra|abgr|gbrap|ya|ayuv|pal8)/.test(pixelFormat),
    pixelAspect: rotation % 180 === 90 ? rational(aspect.den, aspect.num) : aspect,
    colour: parseColour(stream),
    interlaced: !['progressive', 'unknown', undefined].includes(stream.field_order),
    fieldOrder: fieldOrderOf(stream.field_order),
    light: lightOf(stream.side_data_list ?? []),
    rotation,
    startSeconds: Math.max(0, (tally.firstSeconds ?? fileStart) - fileStart),
    claimedRate: parseRational(stream.r_frame_rate ?? '') ?? parseRational(stream.avg_frame_rate ?? ''),
    constantRate: timing.constant,
    seeksExactly: lead !== null && haveOwnTimes(timing),
    seekLeadSeconds: lead ?? 0,
    bitsPerSecond: timing.durationSeconds > 0 ? Math.round((tally.bytes * 8) / timing.durationSeconds) : null,
    keyframes: tally.keyframes,
    keyframeDistance,
    reordering: Math.max(0, stream.has_b_frames ?? 0),
  };
}

/** @returns null where frames cannot be found by their time. */
function leadOf(
  { times, keyframeTimes, packets }: PacketTally,
  timing: Timing,
  distance: VideoFacts['keyframeDistance'],
  formatName: string,
): number | null {
  if (INDEXED.test(formatName)) return 0;
  const isSteady = timing.constant && times.length === packets && times[0] === keyframeTimes[0];
  if (!SOUGHT_BY_TIME.test(formatName) || !isSteady || !distance) return null;
  const lead = distance.most / toNumber(timing.rate) + LANDING_SECONDS;
  return lead <= MOST_LEAD_SECONDS ? lead : null;
}

/** Whether every frame has a time of its own, by which it can be found. */
function haveOwnTimes({ frameTimes }: Timing): boolean {
  return frameTimes?.every((time, frame) => frame === 0 || time > (frameTimes[frame - 1] ?? 0)) ?? true;
}

/** Clockwise turn in degrees, from 0 to 359. */
export function rotationOf(stream: ProbeStream): number {
  const turned = stream.side_data_list?.find((data) => data.rotation !== undefined)?.rotation ?? 0;
  // The engine counts anticlockwise, people clockwise.
  return (((-turned % 360) + 360) % 360) + 0;
}

/** The levels of MPEG-2, as files store them (ITU-T H.262). */
const MPEG2_LEVELS: Readonly<Record<number, string>> = { 4: 'High', 6: 'High 1440', 8: 'Main', 10: 'Low' };

function nameLevel({ codec_name: codec = '', level }: ProbeStream): string | null {
  if (level === undefined || level < 0) return null;
  if (isVideoCodec(codec)) return VIDEO[codec].nameLevel(level);
  return codec === 'mpeg2video' ? (MPEG2_LEVELS[level] ?? null) : null;
}

/** Luma positions of keyframes, and the frames between them. */
function distancesOf(tally: PacketTally): VideoFacts['keyframeDistance'] {
  const { keyframeTimes, times } = tally;
  if (keyframeTimes.length < 2) return null;
  const positions: number[] = [];
  let next = 0;
  times.forEach((time, frame) => {
    if (keyframeTimes[next] !== time) return;
    positions.push(frame);
    next += 1;
  });
  const gaps = positions.slice(1).map((position, index) => position - (positions[index] ?? 0));
  if (gaps.length === 0) return null;
  const [least, most] = gaps.reduce<[number, number]>(
    ([low, high], gap) => [Math.min(low, gap), Math.max(high, gap)],
    [Infinity, 0],
  );
  return { least, mean: gaps.reduce((sum, gap) => sum + gap, 0) / gaps.length, most };
}

function fieldOrderOf(order: string | undefined): VideoFacts['fieldOrder'] {
  if (order === 'tt' || order === 'tb') return 'top-first';
  return order === 'bb' || order === 'bt' ? 'bottom-first' : null;
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

/** From the engine's name of the pixel format, where the sampling is written without its colons. */
function chromaOf(pixelFormat: string): ChromaSampling | null {
  if (/^(gray|ya\d|mono)/.test(pixelFormat)) return '4:0:0';
  if (/^(rgb|bgr|gbr|argb|abgr|0rgb|0bgr|pal8)/.test(pixelFormat)) return '4:4:4';
  if (/^(nv12|nv21|p01\d)/.test(pixelFormat)) return '4:2:0';
  if (/^(uyvy422|yuyv422|yvyu422|nv16|p21\d)/.test(pixelFormat)) return '4:2:2';
  const digits = /^yuv[aj]?(4\d\d)p/.exec(pixelFormat)?.[1];
  return CHROMA_SAMPLINGS.find((sampling) => sampling.replaceAll(':', '') === digits) ?? null;
}

/** Light levels that travel with a picture; null where nothing is told. */
export function lightOf(sideData: readonly SideData[]): LightLevels | null {
  const mastering = sideData.find((data) => data.max_luminance !== undefined);
  const content = sideData.find((data) => data.max_content !== undefined);
  if (!mastering && !content) return null;
  return {
    masteringLeast: fractionOf(mastering?.min_luminance),
    masteringMost: fractionOf(mastering?.max_luminance),
    contentMost: content?.max_content ?? null,
    frameAverageMost: content?.max_average ?? null,
    masteringColour: mastering ? displayColourOf(mastering) : null,
  };
}

function displayColourOf(told: SideData): DisplayColour | null {
  const pairs = [
    [fractionOf(told.red_x), fractionOf(told.red_y)],
    [fractionOf(told.green_x), fractionOf(told.green_y)],
    [fractionOf(told.blue_x), fractionOf(told.blue_y)],
    [fractionOf(told.white_point_x), fractionOf(told.white_point_y)],
  ].flatMap(([x, y]) => (x == null || y == null ? [] : [[x, y] as const]));
  const [red, green, blue, white] = pairs;
  return red && green && blue && white ? { red, green, blue, white } : null;
}

function fractionOf(text: string | undefined): number | null {
  const [num, den = 1] = (text ?? '').split('/').map(Number);
  return num !== undefined && den > 0 && text !== undefined && Number.isFinite(num) ? num / den : null;
}

function bitDepthOf(pixelFormat: string, raw: string | undefined): number {
  const named = /p(9|10|12|14|16)(le|be)?$/.exec(pixelFormat);
  if (named) return Number(named[1]);
  const counted = Number(raw);
  return counted > 8 && counted <= 16 ? counted : 8;
}
