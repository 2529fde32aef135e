import type { AnalysisView, ProgrammeView } from '../../contract/views.ts';
import { bytesPerHour } from '../../core/budget/projections.ts';
import { nameShape, SQUARE } from '../../core/geometry/frameSize.ts';
import type { AudioFacts, VideoFacts } from '../../core/programme/facts.ts';
import { nameLight } from '../../core/programme/light.ts';
import { nameFrameRate } from '../../core/timing/frameRate.ts';
import { sameRational, toNumber } from '../../core/timing/rational.ts';
import { formatClockTime } from '../../core/timing/clockTime.ts';
import { frameToTimecode, readTimecodeStart } from '../../core/timing/timecode.ts';
import { formatBytes, formatExactBytes, formatLength, formatRate } from '../kit/format.ts';
import { nameSourceCodec } from '../../core/programme/sourceCodecs.ts';
import { channelName } from './describeProgramme.ts';

type Fact = readonly [name: string, value: string];

export interface FactGroup {
  readonly title: string;
  readonly facts: readonly Fact[];
}

const NOT_TAGGED = 'not tagged';

const SCANS = {
  progressive: 'progressive',
  'top-first': 'interlaced, top field first',
  'bottom-first': 'interlaced, bottom field first',
  mixed: 'progressive and interlaced in parts',
} as const;

/** Everything known about a programme, in the order of file, picture, sound, and what else is in the file. */
export function listFacts(programme: ProgrammeView, analysis: AnalysisView | undefined): FactGroup[] {
  const { video, audio } = programme;
  return [
    { title: 'File', facts: fileFacts(programme) },
    ...(video ? [{ title: 'Picture', facts: pictureFacts(programme, video, analysis) }] : []),
    ...audio.map((track, index) => ({
      title: audio.length > 1 ? `Sound ${index + 1}` : 'Sound',
      facts: [...soundFacts(track), ...(index === 0 ? loudnessFacts(analysis) : [])],
    })),
    ...extraGroup(programme),
  ];
}

/** The same as plain text, one fact a line. */
export function factsAsText(groups: readonly FactGroup[]): string {
  return groups
    .map(({ title, facts }) => [title, ...facts.map(([name, value]) => `  ${name}: ${value}`)].join('\n'))
    .join('\n\n');
}

/** Counted as the file's own timecode is, but from zero. */
function lengthAsTimecode({ frameCount, frameRate, startTimecode }: ProgrammeView): string {
  const { drops } = readTimecodeStart(startTimecode, frameRate);
  return frameToTimecode(frameCount, frameRate, { frames: 0, drops });
}

function fileFacts(programme: ProgrammeView): Fact[] {
  const { bytes, durationSeconds, frameCount, video } = programme;
  const perHour = bytesPerHour(bytes, durationSeconds);
  const length = video
    ? `${video.constantRate ? lengthAsTimecode(programme) : formatClockTime(durationSeconds)}, ${frameCount.toLocaleString('en')} frames`
    : `${formatLength(durationSeconds)} (${durationSeconds.toFixed(3)} s)`;
  return [
    ['Container', programme.container],
    ['Length', length],
    ['Size', `${formatBytes(bytes)} (${formatExactBytes(bytes)})`],
    ['Average rate', formatRate((bytes * 8) / durationSeconds)],
    ['Size per hour', perHour === null ? '–' : formatBytes(perHour)],
    ['Timecode begins', programme.startTimecode ?? 'no timecode track'],
    ['Path', programme.path],
  ];
}

function pictureFacts(programme: ProgrammeView, video: VideoFacts, analysis: AnalysisView | undefined): Fact[] {
  const { width, height, frameRate, frameCount } = programme;
  const { pixelAspect, colour, keyframeDistance, light } = video;
  const isSquare = sameRational(pixelAspect, SQUARE);
  const codec = [nameSourceCodec(video.codec), video.profile, video.level && `level ${video.level}`];
  const bitsPerPixel = video.bitsPerSecond && video.bitsPerSecond / (width * height * toNumber(frameRate));
  return [
    ['Codec', codec.filter(Boolean).join(', ')],
    ['Frame size', `${width} × ${height}`],
    ['Pixel aspect', isSquare ? 'square' : `${pixelAspect.num}:${pixelAspect.den}`],
    ['Display aspect', nameShape(programme, pixelAspect)],
    [
      'Frame rate',
      `${frameRate.num}/${frameRate.den} (${nameFrameRate(frameRate)}), ${video.constantRate ? 'constant' : 'variable'} by its timestamps`,
    ],
    ['Scan', scanText(video, analysis)],
    ['Bit depth', `${video.bitDepth} bits`],
    ['Chroma', video.chroma ?? 'unknown'],
    ['Primaries', colour.primaries ?? NOT_TAGGED],
    ['Transfer', colour.transfer ?? NOT_TAGGED],
    ['Matrix', colour.matrix ?? NOT_TAGGED],
    ['Range', colour.range ?? NOT_TAGGED],
    ['HDR metadata', light ? nameLight(light) : 'none'],
    ['Rotation', video.rotation === 0 ? 'none' : `${video.rotation}° clockwise, by tag`],
    ['Alpha', video.alpha ? (analysis?.opaque ? 'yes, opaque throughout' : 'yes') : 'no'],
    ['Average rate', video.bitsPerSecond === null ? 'unknown' : formatRate(video.bitsPerSecond)],
    ['Bits per pixel', bitsPerPixel ? bitsPerPixel.toFixed(3) : 'unknown'],
    ['Reordering', video.reordering === 0 ? 'none' : `${video.reordering} frames held back`],
    [
      'Keyframes',
      keyframeDistance
        ? keyframeText(video.keyframes, keyframeDistance)
        : video.keyframes === frameCount
          ? 'every frame'
          : String(video.keyframes),
    ],
    ...(analysis?.bars ? [['Bars', barsText(analysis.bars)] as const] : []),
  ];
}

function keyframeText(count: number, { least, mean, most }: NonNullable<VideoFacts['keyframeDistance']>): string {
  if (least === most) return `${count}; every ${least === 1 ? 'frame' : `${least} frames`}`;
  return `${count}; every ${least} to ${most} frames, ${mean.toFixed(1)} on average`;
}

function scanText(video: VideoFacts, analysis: AnalysisView | undefined): string {
  const tagged = video.interlaced
    ? `interlaced${video.fieldOrder ? `, ${video.fieldOrder.replace('-', ' field ')}` : ''}`
    : 'progressive';
  return analysis?.scan ? `${SCANS[analysis.scan]} by its picture; tagged ${tagged}` : `tagged ${tagged}`;
}

function barsText(bars: NonNullable<AnalysisView['bars']>): string {
  const sides = (['top', 'bottom', 'left', 'right'] as const).filter((side) => bars[side] > 0);
  return sides.length === 0 ? 'none' : sides.map((side) => `${bars[side]} ${side}`).join(', ');
}

function soundFacts(track: AudioFacts): Fact[] {
  return [
    ['Codec', nameSourceCodec(track.codec)],
    ['Rate', track.bitsPerSecond === null ? 'unknown' : formatRate(track.bitsPerSecond)],
    [
      'Channels',
      track.layout && track.layout !== 'unknown' ? `${track.layout} (${track.channels})` : channelName(track.channels),
    ],
    ['Sample rate', `${track.sampleRate / 1000} kHz`],
    ['Bit depth', track.bitDepth ? `${track.bitDepth} bits` : 'compressed'],
    ['Language', track.language ?? NOT_TAGGED],
    ...(track.title ? [['Title', track.title] as const] : []),
    ...(track.startSeconds > 0 ? [['Begins at', `${track.startSeconds.toFixed(3)} s`] as const] : []),
  ];
}

function loudnessFacts(analysis: AnalysisView | undefined): Fact[] {
  const { loudness, channels } = analysis ?? {};
  return [
    ...(loudness
      ? ([
          ['Loudness', `${loudness.integratedLufs.toFixed(1)} LUFS, range ${loudness.rangeLu.toFixed(1)} LU`],
          ['True peak', `${loudness.truePeakDbtp.toFixed(1)} dBTP`],
        ] as const)
      : []),
    ...(channels
      ? [['Channel peaks', channels.peaks.map((peak) => `${peak.toFixed(1)} dBFS`).join(', ')] as const]
      : []),
  ];
}

function extraGroup({ captions, sidecars, chapters, metadata }: ProgrammeView): FactGroup[] {
  const facts: Fact[] = [
    ...captions.map(({ codec, language }, index): Fact => [
      `Captions ${index + 1}`,
      `${codec}, ${language ?? NOT_TAGGED}`,
    ]),
    ...(chapters.length > 0
      ? [
          [
            'Chapters',
            chapters.map(({ title, startSeconds }) => `${formatLength(startSeconds)} ${title}`).join('; '),
          ] as const,
        ]
      : []),
    ...Object.entries(metadata),
  ];
  if (sidecars.length > 0) facts.push(['Caption files', `${sidecars.join(', ')}, beside the master`]);
  return facts.length === 0 ? [] : [{ title: 'Captions, chapters, metadata', facts }];
}
