import { ALL_FORMATS, BufferSource, Input } from 'mediabunny';
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

/** What the package mediabunny reads of a file's tracks: codec, size or channels, and codec string. */
export async function readByMediabunny(file: string) {
  const input = new Input({ formats: ALL_FORMATS, source: new BufferSource(readFileSync(file)) });
  const [picture, sound] = [await input.getPrimaryVideoTrack(), await input.getPrimaryAudioTrack()];
  return {
    picture: picture && {
      codec: picture.codec,
      width: picture.codedWidth,
      height: picture.codedHeight,
      string: await picture.getCodecParameterString(),
      seconds: await picture.computeDuration(),
    },
    sound: sound && { codec: sound.codec, channels: sound.numberOfChannels, sampleRate: sound.sampleRate },
  };
}
