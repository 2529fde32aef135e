import { isSoundCodec, SOUND } from '../sound/codecs.ts';
import { isVideoCodec, VIDEO } from '../video/codecs.ts';

/** What is known of a codec that masters come in and that is not written. */
interface SourceCodec {
  /** The trade's name; null has none but its own. */
  readonly name: string | null;
  /** Spends far fewer bits than older ones for one picture. */
  readonly isEfficient?: true;
  /** May lie in a WebM file (the WebM project's container guidelines). */
  readonly isInWebM?: true;
  /** What a browser is asked about in a container by the file's own word for it. */
  readonly web?: Readonly<Record<string, string>>;
}

/** By the engine's names. What is written has a definition of its own, which counts; here stands what is only read. */
const SOURCE_CODECS: Readonly<Record<string, SourceCodec>> = {
  prores: { name: 'ProRes' },
  dnxhd: { name: 'VC-3' },
  mpeg2video: { name: 'MPEG-2' },
  mjpeg: { name: 'Motion JPEG' },
  dvvideo: { name: 'DV' },
  ffv1: { name: 'FFV1' },
  vp8: { name: 'VP8', isInWebM: true, web: { WebM: 'vp8' } },
  av1: { name: 'AV1', isEfficient: true, isInWebM: true },
  mp3: { name: 'MP3', web: { MP4: 'mp4a.69' } },
  ac3: { name: 'AC-3' },
  flac: { name: 'FLAC', web: { MP4: 'flac' } },
  vorbis: { name: 'Vorbis', isInWebM: true, web: { WebM: 'vorbis' } },
  // Written in WebM only, and played in MP4 as well.
  opus: { name: null, web: { MP4: 'opus' } },
  webvtt: { name: null, isInWebM: true },
};

/** What people call a codec that a master comes in. */
export function nameSourceCodec(codec: string): string {
  if (codec.startsWith('pcm_')) return 'PCM';
  if (isVideoCodec(codec)) return VIDEO[codec].name;
  if (isSoundCodec(codec)) return SOUND[codec].name;
  return SOURCE_CODECS[codec]?.name ?? codec;
}

/** Whether a picture codec spends far fewer bits than older ones: what is thin in it was compressed hard. */
export function isEfficientCodec(codec: string): boolean {
  return isVideoCodec(codec) || SOURCE_CODECS[codec]?.isEfficient === true;
}

/** Whether a codec may lie in a WebM file, which is a Matroska file of nothing else. */
export function isWebMCodec(codec: string): boolean {
  const own = isVideoCodec(codec) ? VIDEO[codec] : isSoundCodec(codec) ? SOUND[codec] : null;
  return own?.containers.includes('webm') === true || SOURCE_CODECS[codec]?.isInWebM === true;
}

/** What a browser is asked about for a codec in a container that is only read so; null where none plays it. */
export function sourceWebString(codec: string, containerName: string): string | null {
  return SOURCE_CODECS[codec]?.web?.[containerName] ?? null;
}
