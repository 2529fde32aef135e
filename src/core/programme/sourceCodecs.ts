import { SOUND, soundCodecOf } from '../sound/codecs.ts';
import { isRated, isVideoCodec, VIDEO } from '../video/codecs.ts';

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
  dnxhd: { name: 'VC-3' },
  mpeg2video: { name: 'MPEG-2' },
  mjpeg: { name: 'Motion JPEG' },
  dvvideo: { name: 'DV' },
  png: { name: 'PNG' },
  jpeg2000: { name: 'JPEG 2000' },
  mpeg4: { name: 'MPEG-4 Part 2' },
  mpeg1video: { name: 'MPEG-1' },
  rawvideo: { name: 'uncompressed pictures' },
  v210: { name: 'uncompressed pictures' },
  qtrle: { name: 'run-length pictures' },
  h263: { name: 'H.263' },
  theora: { name: 'Theora' },
  vp8: { name: 'VP8', isInWebM: true, web: { WebM: 'vp8' } },
  ac3: { name: 'AC-3' },
  eac3: { name: 'Enhanced AC-3' },
  mp2: { name: 'MPEG-1 Layer II' },
  alac: { name: 'ALAC' },
  adpcm_ima_wav: { name: 'ADPCM' },
  adpcm_ms: { name: 'ADPCM' },
  // Written by itself only, and played in MP4 as well.
  flac: { name: null, web: { MP4: 'flac' } },
  webvtt: { name: null, isInWebM: true },
};

/** What people call a codec that a master comes in. */
export function nameSourceCodec(codec: string): string {
  if (codec.startsWith('pcm_')) return 'PCM';
  if (isVideoCodec(codec)) return VIDEO[codec].name;
  const sound = soundCodecOf(codec);
  if (sound) return SOUND[sound].name;
  return SOURCE_CODECS[codec]?.name ?? codec;
}

/** Whether a picture codec spends far fewer bits than older ones: what is thin in it was compressed hard. */
export function isEfficientCodec(codec: string): boolean {
  return isRated(codec) || SOURCE_CODECS[codec]?.isEfficient === true;
}

/** Whether a codec may lie in a WebM file, which is a Matroska file of nothing else. */
export function isWebMCodec(codec: string): boolean {
  const sound = soundCodecOf(codec);
  const own = isVideoCodec(codec) ? VIDEO[codec] : sound && SOUND[sound];
  return own?.containers.includes('webm') === true || SOURCE_CODECS[codec]?.isInWebM === true;
}

/** What a browser is asked about for a codec in a container that is only read so; null where none plays it. */
export function sourceWebString(codec: string, containerName: string): string | null {
  return SOURCE_CODECS[codec]?.web?.[containerName] ?? null;
}
