import { engineFormat } from '../filters/store.ts';
import type { MasterEncoder } from './encoder.ts';

/** The mezzanine by the engine's fuller encoder; its flavours have the recipe's own names. */
export const proresKs: MasterEncoder = {
  program: 'prores_ks',
  arguments: ({ flavour }, format) => ['-c:v', 'prores_ks', '-profile:v', flavour, '-pix_fmt', engineFormat(format)],
};
