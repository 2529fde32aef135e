import type { SoundEncoder } from './encoder.ts';

/** AAC-LC by the engine's own encoder. */
export const aac: SoundEncoder = {
  program: 'aac',
  arguments: ({ rate }) => ['-c:a', 'aac', '-b:a', String(rate)],
};
