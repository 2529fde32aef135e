import type { Effort } from '../../core/codec/tables.ts';
import { CHANNEL_COUNT, FINEST_SENSIBLE_QUANTISER } from '../../core/codec/tables.ts';
import type { PicturePlan, SoundPlan, VideoEncodePlan } from '../../core/rate/encodePlan.ts';
import type { BitsPerSecond } from '../../core/units.ts';
import { inputArguments } from './input.ts';
import { encodeFilter, inputPortion, timedOutput } from './picture.ts';

/** Progress on standard output twice a second; the log on standard error. */
export const QUIET_WITH_PROGRESS: readonly string[] = [
  '-hide_banner',
  '-nostdin',
  '-y',
  '-nostats',
  '-progress',
  'pipe:1',
  '-stats_period',
  '0.5',
];

const PRESETS: Readonly<Record<Effort, string>> = { fast: 'veryfast', balanced: 'medium', thorough: 'slow' };

/** Nothing of the source's own metadata, and the same bytes each time. */
export const PLAIN_FILE: readonly string[] = [
  '-map_metadata',
  '-1',
  '-map_chapters',
  '-1',
  '-fflags',
  '+bitexact',
  '-movflags',
  '+faststart',
  '-f',
  'mp4',
];

/** What one run of the picture's encoder does. */
export type PictureRun =
  | { readonly kind: 'quality'; readonly value: number; readonly fill: FillSettings | null }
  | { readonly kind: 'average'; readonly rate: BitsPerSecond }
  | { readonly kind: 'analysis'; readonly rate: BitsPerSecond; readonly fill: FillSettings | null }
  | { readonly kind: 'second'; readonly rate: BitsPerSecond; readonly fill: FillSettings | null };

/**
 * What all encodes for a size target share: they spend nothing beyond the finest sensible quality, and their headers say
 * the same whatever their rate and content, so that groups of pictures can be joined.
 */
export interface FillSettings {
  /** The level every one of them is marked with, such as `4.0`; encoders would choose it by the rate. */
  readonly level: string;
}

/**
 * Arguments that encode the sound alone, as long as the picture to the sample: silence fills what the source lacks.
 *
 * @param output - Absolute path of an MP4 file to write.
 */
export function soundArguments(sound: SoundPlan, source: string, output: string): string[] {
  const start = sound.startSeconds.toFixed(9);
  const filter = [
    `atrim=start=${start}`,
    `asetpts=PTS-${start}/TB`,
    // Gaps and a late start become silence instead of shifting what follows.
    `aresample=${sound.sampleRate}:async=1:first_pts=0`,
    'apad',
    `atrim=end_sample=${sound.samples}`,
  ].join(',');
  return [
    ...QUIET_WITH_PROGRESS,
    ...inputArguments(source),
    ...['-map', `0:${sound.streamIndex}`, '-vn', '-sn', '-dn'],
    ...[
      '-af',
      filter,
      ...(sound.channels ? ['-ac', String(CHANNEL_COUNT[sound.channels])] : []),
      '-ar',
      String(sound.sampleRate),
    ],
    ...['-c:a', 'aac', '-b:a', String(sound.rate)],
    ...PLAIN_FILE,
    `file:${output}`,
  ];
}

/** Where a picture run reads and writes. */
export interface PictureFiles {
  readonly source: string;
  /** The encoded sound to put beside the picture, or null. */
  readonly sound: string | null;
  /** null for an analysis pass, which writes statistics only. */
  readonly output: string | null;
}

/** First-pass statistics, relative to the working folder: a path would need escaping inside encoder settings. */
export const STATISTICS = 'passes.log';

/**
 * Arguments of one pass over the picture. The working folder holds the statistics between passes.
 */
export function pictureArguments(
  picture: PicturePlan,
  video: VideoEncodePlan,
  run: PictureRun,
  files: PictureFiles,
): string[] {
  return [
    ...QUIET_WITH_PROGRESS,
    ...inputPortion(files.source, picture),
    ...(files.sound ? inputArguments(files.sound) : []),
    ...['-map', `0:${picture.streamIndex}`],
    ...(files.sound ? ['-map', '1:a:0', '-c:a', 'copy'] : ['-an']),
    ...['-sn', '-dn', '-vf', encodeFilter(picture)],
    ...timedOutput(picture),
    ...encoderArguments(video, run),
    ...['-color_range', 'tv', '-color_primaries', picture.colour.primaries],
    ...['-color_trc', picture.colour.transfer, '-colorspace', picture.colour.matrix],
    ...(files.output ? [...PLAIN_FILE, `file:${files.output}`] : ['-f', 'null', '-']),
  ];
}

function encoderArguments(video: VideoEncodePlan, run: PictureRun): string[] {
  const shared = ['-preset', PRESETS[video.effort], '-pix_fmt', 'yuv420p', '-g', String(video.keyframeInterval)];
  switch (video.codec) {
    case 'h264':
      return ['-c:v', 'libx264', '-profile:v', 'high', ...shared, ...h264Rate(run)];
    case 'hevc':
      return ['-c:v', 'libx265', '-tag:v', 'hvc1', ...shared, ...hevcRate(run)];
  }
}

function h264Rate(run: PictureRun): string[] {
  switch (run.kind) {
    case 'quality':
      return ['-crf', String(run.value), ...(run.fill ? h264Fill(run.fill) : [])];
    case 'average':
      return ['-b:v', String(run.rate)];
    case 'analysis':
    case 'second': {
      const pass = run.kind === 'analysis' ? '1' : '2';
      return [
        '-b:v',
        String(run.rate),
        '-pass',
        pass,
        // A first pass with shortcuts guesses bits the second does not spend: of 11 H.264 size targets 6 were met by the
        // first second pass with them, 9 without. The rate is held as loosely as the encoder does by itself: held
        // tighter, noise at the edge of being kept made it swing by up to 45 % (measured), which no correction follows.
        ...['-fastfirstpass', '0'],
        '-passlogfile',
        STATISTICS,
        ...(run.fill ? h264Fill(run.fill) : []),
      ];
    }
  }
}

function hevcRate(run: PictureRun): string[] {
  // Without info=0 the encoder writes two kilobytes about its own settings into every file.
  const settings = ['info=0'];
  const rate = run.kind === 'quality' ? ['-crf', String(run.value)] : ['-b:v', String(run.rate)];
  if (run.kind === 'analysis' || run.kind === 'second') {
    settings.push(`pass=${run.kind === 'analysis' ? 1 : 2}`, `stats=${STATISTICS}`);
  }
  if (run.kind !== 'average' && run.fill) settings.push(...hevcFill(run.fill));
  return [...rate, '-x265-params', settings.join(':')];
}

function h264Fill({ level }: FillSettings): string[] {
  return ['-qmin', String(FINEST_SENSIBLE_QUANTISER.h264), '-level:v', level, '-x264-params', 'stitchable=1'];
}

/** Closed groups of pictures can be joined with those of another pass; they cost 0.2 % (measured). */
function hevcFill({ level }: FillSettings): string[] {
  return [`qpmin=${FINEST_SENSIBLE_QUANTISER.hevc}`, 'open-gop=0', `level-idc=${level}`, 'high-tier=0'];
}
