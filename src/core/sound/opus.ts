import type { SoundDefinition } from './definition.ts';

/** Opus (RFC 6716; in files RFC 7845). */
export const opus: SoundDefinition = {
  name: 'Opus',
  hint: 'Good at low rates; plays in every browser but old ones.',
  containers: ['webm'],
  kbps: { mono: [6, 256], stereo: [12, 510] },
  usualKbps: { mono: 48, stereo: 96 },
  rateHint: '96 to 160 is usual for stereo, half for mono speech.',
  sampleRates: [48000],
  // 20 ms at 48 kHz.
  packetSamples: 960,
  leadPackets: 1,
  // 312 samples of pre-skip (RFC 7845), as its encoder has it.
  leadSeconds: 312 / 48000,
  codecString: 'opus',
};
