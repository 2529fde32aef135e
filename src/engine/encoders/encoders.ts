import type { Container } from '../../core/container/names.ts';
import type { SoundCodec } from '../../core/sound/codecs.ts';
import type { VideoCodec } from '../../core/video/codecs.ts';
import { aac } from './aac.ts';
import type { Encoder, SoundEncoder } from './encoder.ts';
import { flac } from './flac.ts';
import { mp3 } from './mp3.ts';
import { opus } from './opus.ts';
import { pcm } from './pcm.ts';
import { svtAv1 } from './svtAv1.ts';
import { vorbis } from './vorbis.ts';
import { vpx } from './vpx.ts';
import { x264 } from './x264.ts';
import { x265 } from './x265.ts';

/** The encoder of each picture codec. */
export const ENCODERS: Readonly<Record<VideoCodec, Encoder>> = { h264: x264, hevc: x265, vp9: vpx, av1: svtAv1 };

/** The option that names a codec's frames as the container wants it; none where the usual name will do. */
export function pictureTag(container: Container, codec: VideoCodec): string[] {
  const tag = ENCODERS[codec].tags[container];
  return tag ? ['-tag:v', tag] : [];
}

/** The encoder of each sound codec. */
export const SOUND_ENCODERS: Readonly<Record<SoundCodec, SoundEncoder>> = { aac, opus, vorbis, mp3, flac, pcm };
