import { readFileSync } from 'node:fs';
import type { MediaInfo } from 'mediainfo.js';
import { createFile, type ISOFile } from 'mp4box';

/** Tracks of a file by their kind, as the package mediainfo.js reads them. */
export async function readByMediaInfo(
  mediaInfo: MediaInfo<'object'>,
  file: string,
): Promise<Record<string, Record<string, unknown>>> {
  const bytes = readFileSync(file);
  const read = (length: number, offset: number) => new Uint8Array(bytes.subarray(offset, offset + length));
  const result = await mediaInfo.analyzeData(() => bytes.length, read);
  return Object.fromEntries((result.media?.track ?? []).map((track) => [track['@type'], track as never]));
}

/** A file as the package mp4box reads it. */
export function readByMp4box(file: string): ISOFile {
  const parsed = createFile();
  const data = readFileSync(file);
  const buffer = data.buffer.slice(data.byteOffset, data.byteOffset + data.byteLength) as ArrayBuffer & {
    fileStart: number;
  };
  buffer.fileStart = 0;
  parsed.appendBuffer(buffer as never);
  parsed.flush();
  return parsed;
}
