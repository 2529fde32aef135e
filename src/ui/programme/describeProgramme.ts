import type { ProgrammeView } from '../../contract/views.ts';
import { nameShape } from '../../core/geometry/frameSize.ts';
import { nameFrameRate } from '../../core/timing/frameRate.ts';
import { frameToTimecode } from '../../core/timing/timecode.ts';
import { sameRational, rational } from '../../core/timing/rational.ts';
import { formatBytes, formatExactBytes, formatLength, formatRate } from '../kit/format.ts';

/** The trade's names of codecs that masters come in; others keep the name they have. */
const SOURCE_CODECS: Readonly<Record<string, string>> = {
  h264: 'H.264',
  hevc: 'HEVC',
  prores: 'ProRes',
  dnxhd: 'VC-3',
  mpeg2video: 'MPEG-2',
  mjpeg: 'Motion JPEG',
  dvvideo: 'DV',
  ffv1: 'FFV1',
  vp9: 'VP9',
  av1: 'AV1',
  aac: 'AAC',
  mp3: 'MP3',
  ac3: 'AC-3',
  flac: 'FLAC',
  opus: 'Opus',
};

export function nameSourceCodec(codec: string): string {
  if (codec.startsWith('pcm_')) return 'PCM';
  return SOURCE_CODECS[codec] ?? codec;
}

/** What a programme is, in one sentence. */
export function describeProgramme(programme: ProgrammeView): string {
  const { video, audio } = programme;
  const track = audio[0];
  const sound = track
    ? `${nameSourceCodec(track.codec)} ${channelName(track.channels)} at ${track.sampleRate / 1000} kHz`
    : 'no sound';
  const weight = `${formatBytes(programme.bytes)}, ${formatRate((programme.bytes * 8) / programme.durationSeconds)} on average`;
  if (!video) return `${formatLength(programme.durationSeconds)} of sound only, ${sound}; ${weight}.`;
  const picture = `${programme.width} × ${programme.height} at ${nameFrameRate(programme.frameRate)} frames a second`;
  return `${formatLength(programme.durationSeconds)} of ${nameSourceCodec(video.codec)}, ${picture}, with ${sound}; ${weight}.`;
}

/** Facts in the trade's words, in the order of container, picture, sound. */
export function listFacts(programme: ProgrammeView): (readonly [name: string, value: string])[] {
  const { video } = programme;
  const facts: [string, string][] = [
    ['Container', programme.container],
    ['Size', formatExactBytes(programme.bytes)],
  ];
  if (video) {
    const { colour, pixelAspect } = video;
    const isSquare = sameRational(pixelAspect, rational(1, 1));
    facts.push(
      ['Length', `${frameToTimecode(programme.frameCount, programme.frameRate)}, ${programme.frameCount} frames`],
      [
        'Frame rate',
        `${programme.frameRate.num}/${programme.frameRate.den}, ${video.constantRate ? 'constant' : 'variable'}`,
      ],
      [
        'Shape',
        `${nameShape(programme, pixelAspect)}, ${isSquare ? 'square pixels' : `pixels ${pixelAspect.num}:${pixelAspect.den}`}`,
      ],
      [
        'Picture',
        `${nameSourceCodec(video.codec)}${video.profile ? ` ${video.profile}` : ''}, ${video.bitDepth} bits, ${video.interlaced ? 'interlaced' : 'progressive'}`,
      ],
      ['Colour', [colour.primaries, colour.transfer, colour.matrix].map((tag) => tag ?? 'not tagged').join(' / ')],
      ['Range', colour.range ?? 'not tagged'],
      [
        'Keyframes',
        `${video.keyframes}, one in ${(programme.frameCount / Math.max(1, video.keyframes)).toFixed(0)} frames`,
      ],
    );
  } else {
    facts.push(['Length', `${programme.durationSeconds.toFixed(3)} s`]);
  }
  programme.audio.forEach((track, index) => {
    const rate = track.bitsPerSecond === null ? '' : `, ${formatRate(track.bitsPerSecond)}`;
    facts.push([
      `Sound ${index + 1}`,
      `${nameSourceCodec(track.codec)}, ${channelName(track.channels)}, ${track.sampleRate / 1000} kHz${rate}`,
    ]);
  });
  facts.push(['File', programme.path]);
  return facts;
}

function channelName(channels: number): string {
  return { 1: 'mono', 2: 'stereo', 6: '5.1' }[channels] ?? `${channels} channels`;
}
