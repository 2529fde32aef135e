import type { SoundDefinition } from './definition.ts';

const PACKET_SAMPLES = 1024;

/** AAC-LC (ISO/IEC 14496-3). */
export const aac: SoundDefinition = {
  name: 'AAC',
  hint: 'Plays everywhere.',
  containers: ['mp4', 'mov', 'matroska', 'm4a'],
  storedAs: ['aac'],
  rate: {
    kind: 'asked',
    // Above 6 bits a sample the encoder clips the rate.
    kbps: { mono: [8, 256], stereo: [16, 512] },
    usualKbps: { mono: 64, stereo: 128 },
    hint: '128 to 320 is usual for stereo, half for mono speech.',
  },
  sampleRates: [44100, 48000],
  mostChannels: 8,
  packetSamples: PACKET_SAMPLES,
  leadPackets: 1,
  leadSeconds: { matroska: PACKET_SAMPLES / 48000 },
  tailSeconds: 0,
  waitsIn: { matroska: 'mp4' },
  setUpBytes: 40,
  inMp4: { isoBytes: 36 + 54, quickTimeBytes: () => 52 + 94 + 24, runInBytes: 26 + 28 },
  codecString: 'mp4a.40.2',
};
