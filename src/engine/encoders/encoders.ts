import type { Container } from '../../core/container/names.ts';
import type { SoundCodec } from '../../core/sound/codecs.ts';
import { isRated, type MasterCodec, type RatedCodec, type VideoCodec } from '../../core/video/codecs.ts';
import { aac } from './aac.ts';
import type { Encoder, MasterEncoder, SoundEncoder } from './encoder.ts';
import { ffv1 } from './ffv1.ts';
import { flac } from './flac.ts';
import { mp3 } from './mp3.ts';
import { opus } from './opus.ts';
import { pcm } from './pcm.ts';
import { proresKs } from './proresKs.ts';
import { svtAv1 } from './svtAv1.ts';
import { vorbis } from './vorbis.ts';
import { vpx } from './vpx.ts';
import { x264 } from './x264.ts';
import { x265 } from './x265.ts';

/** The encoder of each picture codec. */
export const ENCODERS: Readonly<Record<RatedCodec, Encoder>> = { h264: x264, hevc: x265, vp9: vpx, av1: svtAv1 };

/** The encoder of each codec for masters. */
export const MASTER_ENCODERS: Readonly<Record<MasterCodec, MasterEncoder>> = { prores: proresKs, ffv1 };

/** What the engine calls the encoder of a picture codec. */
export function programOf(codec: VideoCodec): string {
  return isRated(codec) ? ENCODERS[codec].program : MASTER_ENCODERS[codec].program;
}

/** The option that names a codec's frames as the container wants it; none where the usual name will do. */
export function pictureTag(container: Container, codec: VideoCodec): string[] {
  const tag = isRated(codec) ? ENCODERS[codec].tags[container] : undefined;
  return tag ? ['-tag:v', tag] : [];
}

/** The encoder of each sound codec. */
export const SOUND_ENCODERS: Readonly<Record<SoundCodec, SoundEncoder>> = { aac, opus, vorbis, mp3, flac, pcm };
