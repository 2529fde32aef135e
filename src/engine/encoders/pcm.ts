import type { SoundEncoder } from './encoder.ts';

/** Bare samples: the high byte first where the container wants it so. */
export const pcm: SoundEncoder = {
  program: 'pcm_s16le',
  arguments: ({ bitDepth }, container) => ['-c:a', `pcm_s${bitDepth ?? 16}${container === 'aiff' ? 'be' : 'le'}`],
};
