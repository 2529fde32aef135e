import type { SoundEncoder } from './encoder.ts';

/** MP3 by LAME, at a constant rate. */
export const mp3: SoundEncoder = {
  program: 'libmp3lame',
  arguments: ({ rate }) => ['-c:a', 'libmp3lame', '-b:a', String(rate)],
};
