import { SAMPLE_RATES, type SoundDefinition } from './definition.ts';

/** FLAC (RFC 9639). In MP4 this engine's muxer calls it experimental, so it is left out there. */
export const flac: SoundDefinition = {
  name: 'FLAC',
  hint: 'Every sample as it was, in about half the room.',
  containers: ['matroska', 'flac', 'ogg'],
  storedAs: ['flac'],
  rate: {
    kind: 'whole',
    depthHint: '16 bits are enough to listen to; 24 to work on.',
    // From silence to noise, which does not shrink; common practice for music and speech: a half.
    shareOfSamples: { least: 0.02, likely: 0.5, most: 1.01 },
  },
  sampleRates: SAMPLE_RATES,
  mostChannels: 8,
  packetSamples: 4608,
  leadPackets: 0,
  leadSeconds: {},
  tailSeconds: 0,
  waitsIn: {},
  setUpBytes: 120,
  inMp4: null,
  codecString: 'flac',
};
