import { CONTAINER } from '../../core/container/containers.ts';
import { CONTAINERS } from '../../core/container/names.ts';
import type { FoundFile } from './muxer.ts';
import { MUXERS } from './muxers.ts';

/** The trade's names for containers that masters come in and that are not written, by the engine's words. */
const ONLY_READ: Readonly<Record<string, string>> = {
  mpegts: 'MPEG transport stream',
  mpeg: 'MPEG program stream',
  mxf: 'MXF',
  avi: 'AVI',
};

/** What people call the container that a file came in; the engine's word where they have no other. */
export function nameFoundContainer(file: FoundFile): string {
  const written = CONTAINERS.find((container) => MUXERS[container].isOf?.(file));
  return written ? CONTAINER[written].name : (ONLY_READ[file.family] ?? file.family);
}
