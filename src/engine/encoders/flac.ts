import type { SoundEncoder } from './encoder.ts';

/** FLAC by the engine's own encoder. */
export const flac: SoundEncoder = {
  program: 'flac',
  arguments: ({ bitDepth }) => [
    ...['-c:a', 'flac', '-compression_level', '8', '-sample_fmt', bitDepth === 24 ? 's32' : 's16'],
    ...(bitDepth === 24 ? ['-bits_per_raw_sample', '24'] : []),
  ],
};
