import type { ProgrammeFacts } from './facts.ts';

/** Profile and constraint bytes of H.264 in codec strings (RFC 6381), by the profile's name. */
const H264_PROFILES: Readonly<Record<string, string>> = {
  'Constrained Baseline': '42E0',
  Baseline: '4200',
  Main: '4D40',
  High: '6400',
};

const SOUND_IN_MP4: Readonly<Record<string, string>> = { aac: 'mp4a.40.2', mp3: 'mp4a.69', opus: 'opus', flac: 'flac' };
const SOUND_ALONE: Readonly<Record<string, string>> = {
  WAV: 'audio/wav',
  MP3: 'audio/mpeg',
  FLAC: 'audio/flac',
  Ogg: 'audio/ogg',
  MP4: 'audio/mp4',
};

/**
 * The type a browser is asked about before it is given a master as it is (RFC 6381).
 *
 * @returns null when no browser plays it, so that nothing need be tried.
 */
export function webTypeOf(facts: ProgrammeFacts): string | null {
  const { video, audio, container } = facts;
  const track = audio[0];
  if (!video) {
    const isPlain = track !== undefined && (track.codec in SOUND_IN_MP4 || /^pcm_(s16|s24|f32)le$/.test(track.codec));
    return isPlain ? (SOUND_ALONE[container] ?? null) : null;
  }
  if (video.bitDepth > 8 || video.chroma !== '4:2:0' || video.interlaced) return null;
  if (container === 'MP4') {
    const profile = video.codec === 'h264' ? H264_PROFILES[video.profile ?? ''] : undefined;
    const sound = track ? SOUND_IN_MP4[track.codec] : '';
    if (!profile || sound === undefined || !video.level) return null;
    const level = Math.round(Number(video.level) * 10)
      .toString(16)
      .toUpperCase()
      .padStart(2, '0');
    return `video/mp4; codecs="${[`avc1.${profile}${level}`, sound].filter(Boolean).join(', ')}"`;
  }
  if (container === 'WebM') {
    if (!/^(vp8|vp9)$/.test(video.codec) || (track && !/^(opus|vorbis)$/.test(track.codec))) return null;
    return `video/webm; codecs="${[video.codec, track?.codec].filter(Boolean).join(', ')}"`;
  }
  return null;
}
