import type { SoundEncoder } from './encoder.ts';

/** Vorbis by libvorbis. */
export const vorbis: SoundEncoder = {
  program: 'libvorbis',
  arguments: ({ rate }) => ['-c:a', 'libvorbis', '-b:a', String(rate)],
};
