import type { PictureSource } from '../../core/plan/encodePlan.ts';
import { isRated } from '../../core/video/codecs.ts';
import { ENCODERS } from '../encoders/encoders.ts';

/**
 * Before every input, to read and to encode alike. Playlists and scripts disguised as films would otherwise make the
 * engine open other local files or the network; with these lists they are refused.
 */
const SAFE_FORMATS =
  'mov,mp4,m4a,3gp,3g2,mj2,matroska,webm,avi,mpegts,mpeg,mpegvideo,mxf,flv,asf,ogg,wav,w64,aiff,mp3,flac,aac,ac3,caf,dv,gxf,ivf,h264,hevc,m4v,yuv4mpegpipe,nut,gif';

/** Options that keep an input to one local file of a known kind. */
export const SAFE_READING: readonly string[] = ['-protocol_whitelist', 'file,pipe', '-format_whitelist', SAFE_FORMATS];

/**
 * Arguments that open one local file.
 *
 * @param path - Absolute; written with its protocol so that no character of the name means anything else.
 */
export function inputArguments(path: string): string[] {
  return [...SAFE_READING, '-i', `file:${path}`];
}

/** Sound that was made before and is put beside a picture. */
export interface SoundFile {
  readonly file: string;
  /** How long after the picture's beginning its first packet is due; less than 0 for one that is underway then. */
  readonly delaySeconds: number;
}

/** Arguments that open a file of sound, in time with what it is put beside. */
export function soundInput({ file, delaySeconds }: SoundFile): string[] {
  // Opened by itself, a file begins when its first packet does.
  return [...(delaySeconds === 0 ? [] : ['-itsoffset', delaySeconds.toFixed(6)]), ...inputArguments(file)];
}

/**
 * Arguments that open a file at a time.
 *
 * @param seconds - From the file's earliest stream, at full precision: milliseconds are too coarse to name a frame.
 */
export function inputFrom(path: string, seconds: number): string[] {
  return seconds > 0 ? ['-ss', seconds.toFixed(9), ...inputArguments(path)] : inputArguments(path);
}

/** Arguments that open a master where a portion begins and read little more than the portion. */
export function inputPortion(path: string, { opening, transparentBy }: PictureSource): string[] {
  const decoder = decoderOf(transparentBy);
  if (!opening) return [...decoder, ...inputFrom(path, 0)];
  return [...decoder, '-t', opening.seconds.toFixed(6), ...inputFrom(path, opening.atSeconds)];
}

/**
 * Options before an input: some codecs' transparency is read by their encoder's own library alone.
 *
 * @param codec - The engine's name of a codec whose transparency is wanted.
 */
export function decoderOf(codec: string | null | undefined): string[] {
  const decoder = codec && isRated(codec) ? ENCODERS[codec].transparentDecoder : undefined;
  return decoder ? ['-c:v', decoder] : [];
}
