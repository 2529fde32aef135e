import { bitsPerSecond, type BitsPerSecond } from '../../core/units.ts';
import type { EngineErrorCode } from '../engineError.ts';

/** Beginnings of files that name other files; such a script is never followed. */
const SCRIPT_STARTS = ['#EXTM3U', 'ffconcat', '<?xml', '<MPD', '[playlist]', 'file ', '#EXT'];

/** What holds nothing but text. */
const IS_TEXT = /^[\s\P{Cc}]*$/u;

/** Files that begin as still pictures do: PNG, JPEG, TIFF of both byte orders, JPEG 2000, OpenEXR and WebP. */
const PICTURE_STARTS = ['\x89PNG', '\xff\xd8\xff', 'II*\0', 'MM\0*', '\0\0\0\x0cjP  ', '\x76\x2f\x31\x01'];
const isPicture = (head: string) => PICTURE_STARTS.some((mark) => head.startsWith(mark)) || /^RIFF.{4}WEBP/s.test(head);

/** Files that begin like a film: the boxes of MP4 and QuickTime, or the marks of Matroska, AVI and WAV. */
// eslint-disable-next-line no-control-regex -- Matroska's mark begins with one
const FILM_STARTS = /^(?:.{4}(?:ftyp|moov|mdat|wide|free|skip)|\x1a\x45\xdf\xa3|RIFF)/s;

/**
 * Says why a file could not be read as a programme.
 *
 * @param head - Its first bytes, as text.
 * @param log - What the engine wrote to standard error.
 */
export function explainReadFailure(head: string, log: string): { code: EngineErrorCode; message: string } {
  const start = head.replace(/^\uFEFF/, '').trimStart();
  const isOfNoKnownKind = /not on whitelist|not allowed/i.test(log);
  if (SCRIPT_STARTS.some((script) => start.startsWith(script)) || (isOfNoKnownKind && IS_TEXT.test(head))) {
    return {
      code: 'file-is-script',
      message:
        'This is a playlist or script that points to other files, not a film; take in the files it names instead.',
    };
  }
  if (isPicture(head)) {
    return {
      code: 'file-is-picture',
      message: 'This is a still picture, not a film; export what it belongs to as one film, and take that in.',
    };
  }
  if (isOfNoKnownKind) {
    return {
      code: 'file-not-media',
      message:
        'Files of this kind are not taken in; export it as MOV, MP4, Matroska or MXF, or its sound as WAV, and take that in.',
    };
  }
  if (FILM_STARTS.test(head) && /moov atom not found|truncat|End of file|EOF/i.test(log)) {
    return {
      code: 'file-cut-off',
      message: 'This file is cut off: its index is missing, so nothing in it can be shown. Copy or export it again.',
    };
  }
  if (OUT_OF_MEMORY.test(log)) return { code: 'memory-limit', message: MEMORY_MESSAGE };
  if (/Permission denied/i.test(log)) {
    return { code: 'file-unreadable', message: 'This file may not be read; give the server read permission on it.' };
  }
  return {
    code: 'file-not-media',
    message:
      'This is not a film or sound file that can be read, whatever its name says; check that it plays, or export it again.',
  };
}

/** Where memory ends, threads and frames cannot be had either, and the engine says the latter (seen under a limit). */
const OUT_OF_MEMORY = /Cannot allocate memory|Resource temporarily unavailable|malloc of size|get_buffer\(\) failed/i;
const MEMORY_MESSAGE = 'More memory was needed than is allowed; the frame size may be absurd, or the file damaged.';

/** Both encoders refuse a second pass whose rate does not even pay for what every frame costs. */
const LEAST_RATE = /requested bitrate is too low\. estimated minimum is (\d+) kbps/;

/**
 * The least rate at which an encoder would have gone on, from what it wrote when it refused.
 *
 * @returns null when it did not refuse the rate.
 */
export function readLeastRate(log: string): BitsPerSecond | null {
  const least = LEAST_RATE.exec(log)?.[1];
  return least === undefined ? null : bitsPerSecond(Number(least) * 1000);
}

/**
 * Says why an encode ended, from what the engine wrote.
 */
export function explainEncodeFailure(log: string): { code: EngineErrorCode; message: string } {
  const leastRate = readLeastRate(log);
  if (leastRate !== null) {
    return {
      code: 'rate-too-low',
      message: `At this frame size the picture needs at least ${leastRate / 1000} kb/s; allow more, or order a smaller frame size.`,
    };
  }
  if (OUT_OF_MEMORY.test(log)) return { code: 'memory-limit', message: MEMORY_MESSAGE };
  if (/No space left on device|ENOSPC/i.test(log)) {
    return {
      code: 'destination-full',
      message: 'The destination is full; free some space or choose another output folder, then run it again.',
    };
  }
  if (/Read-only file system|Permission denied/i.test(log)) {
    return {
      code: 'destination-read-only',
      message: 'The output folder cannot be written to; choose another or change its permissions.',
    };
  }
  // The master is open already when the engine is started, so what it does not find is where it should write.
  if (/No such file or directory/i.test(log)) {
    return {
      code: 'destination-gone',
      message: 'The output folder is no longer there, or its disk was taken away; put it back and run this again.',
    };
  }
  return {
    code: 'engine-failed',
    message: 'The encoder stopped with an error; its own words are below. The master may be damaged.',
  };
}
