import { CONTAINER } from '../container/containers.ts';
import { CONTAINERS, type Container } from '../container/names.ts';
import { SOUND, soundCodecOf } from '../sound/codecs.ts';
import { isVideoCodec, VIDEO } from '../video/codecs.ts';
import { heardTracks } from './channelTracks.ts';
import type { AudioFacts, ProgrammeFacts, VideoFacts } from './facts.ts';
import { sourceWebString } from './sourceCodecs.ts';

/** Sound files as they are, by their container's name. */
const SOUND_ALONE: Readonly<Record<string, string>> = {
  WAV: 'audio/wav',
  MP3: 'audio/mpeg',
  FLAC: 'audio/flac',
  Ogg: 'audio/ogg',
};

/**
 * The type a browser is asked about before it is given a master as it is (RFC 6381).
 *
 * @returns null when no browser plays it, so that nothing need be tried.
 */
export function webTypeOf({ video, audio, container: name }: ProgrammeFacts): string | null {
  const [track, ...others] = heardTracks(audio);
  // Players play one track, and these are channels of one sound.
  if (others.length > 0) return null;
  const container = CONTAINERS.find((one) => CONTAINER[one].name === name) ?? null;
  if (!video) return track && isPlain(track) ? typeOfSound(name, container) : null;
  if (!container || video.bitDepth > 8 || video.chroma !== '4:2:0' || video.interlaced) return null;
  const { withPicture } = CONTAINER[container];
  if (!withPicture || !CONTAINER[container].playsInBrowsers) return null;
  const picture = pictureString(container, video);
  const sound = track ? soundString(container, track) : '';
  if (picture === null || sound === null) return null;
  return `${withPicture.mime}; codecs="${[picture, sound].filter(Boolean).join(', ')}"`;
}

function pictureString(container: Container, video: VideoFacts): string | null {
  const { codec } = video;
  if (isVideoCodec(codec) && VIDEO[codec].containers.includes(container)) return VIDEO[codec].webString(video);
  return sourceWebString(codec, CONTAINER[container].name);
}

function soundString(container: Container, { codec }: Pick<AudioFacts, 'codec'>): string | null {
  const own = soundCodecOf(codec);
  if (own && SOUND[own].containers.includes(container)) return SOUND[own].codecString;
  return sourceWebString(codec, CONTAINER[container].name);
}

/** Compressed as browsers know it, or samples as they are. */
function isPlain({ codec }: AudioFacts): boolean {
  if (/^pcm_(s16|s24|f32)le$/.test(codec)) return true;
  return CONTAINERS.some((container) => soundString(container, { codec }) !== null);
}

function typeOfSound(name: string, container: Container | null): string | null {
  return SOUND_ALONE[name] ?? (container && CONTAINER[container].soundAlone.mime);
}
