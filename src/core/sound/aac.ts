import type { SoundDefinition } from './definition.ts';

/** AAC-LC (ISO/IEC 14496-3). */
export const aac: SoundDefinition = {
  name: 'AAC',
  hint: 'Plays everywhere.',
  containers: ['mp4'],
  // Above 6 bits a sample the encoder clips the rate.
  kbps: { mono: [8, 256], stereo: [16, 512] },
  usualKbps: { mono: 64, stereo: 128 },
  rateHint: '128 to 320 is usual for stereo, half for mono speech.',
  sampleRates: [44100, 48000],
  packetSamples: 1024,
  leadPackets: 1,
  leadSeconds: 0,
  codecString: 'mp4a.40.2',
};
