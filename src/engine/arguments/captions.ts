import { inputArguments } from './input.ts';
import { QUIETLY } from './progress.ts';

/** Where captions are read: a stream of a master, or a file of nothing else. */
export interface CaptionSource {
  /** Absolute. */
  readonly path: string;
  /** Position of the stream in a master; null for a file of captions. */
  readonly stream: number | null;
  /** The alphabet of a file that is not in UTF-8, by its name in the Encoding Standard. */
  readonly alphabet?: 'windows-1252';
}

/** Kinds of file that hold captions alone. */
const CAPTION_FORMATS = 'srt,webvtt,ass';

/** Arguments that write captions as WebVTT to standard output, by the clock of their file. */
export function captionArguments({ path, stream, alphabet }: CaptionSource): string[] {
  const written = alphabet ? ['-sub_charenc', alphabet] : [];
  const input =
    stream === null
      ? ['-protocol_whitelist', 'file', '-format_whitelist', CAPTION_FORMATS, ...written, '-i', `file:${path}`]
      : inputArguments(path);
  return [
    ...[...QUIETLY, ...input],
    ...['-map', stream === null ? '0:s:0' : `0:${stream}`, '-c:s', 'webvtt', '-f', 'webvtt', 'pipe:1'],
  ];
}
