import type { SoundEncoder } from './encoder.ts';

/** Opus by libopus. */
export const opus: SoundEncoder = {
  program: 'libopus',
  arguments: ({ rate }) => ['-c:a', 'libopus', '-b:a', String(rate)],
};
