import { isWebMCodec } from '../../core/programme/sourceCodecs.ts';
import type { FoundFile, Muxer } from './muxer.ts';

/** Whether a Matroska file is WebM: it holds nothing else than what WebM takes. */
export function isOfWebM({ family, codecs }: FoundFile): boolean {
  return family.includes('matroska') && codecs.every(isWebMCodec);
}

/** WebM with its index first. */
export const webm: Muxer = {
  format: 'webm',
  arguments: ['-cues_to_front', '1'],
  extension: 'webm',
  captionsAs: 'webvtt',
  stampsPerSecond: 1000,
  isOf: isOfWebM,
};
