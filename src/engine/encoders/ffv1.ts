import { engineFormat } from '../filters/store.ts';
import type { MasterEncoder } from './encoder.ts';

/** FFV1 by the engine's own encoder: version 3, every frame a keyframe, a checksum for each slice. */
export const ffv1: MasterEncoder = {
  program: 'ffv1',
  arguments: (_settings, format) => [
    ...['-c:v', 'ffv1', '-level', '3', '-g', '1', '-slicecrc', '1'],
    ...['-pix_fmt', engineFormat(format)],
  ],
};
