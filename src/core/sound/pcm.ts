import { SAMPLE_RATES, type SoundDefinition } from './definition.ts';

/** Bare samples, linear. */
export const pcm: SoundDefinition = {
  name: 'PCM',
  hint: 'Every sample as it is, for editing: 691 MB an hour in stereo at 16 bits.',
  containers: ['mov', 'matroska', 'wav', 'aiff'],
  // Low byte first, or high byte first in AIFF.
  storedAs: ['pcm_s16le', 'pcm_s24le', 'pcm_s16be', 'pcm_s24be'],
  rate: {
    kind: 'whole',
    depthHint: '16 bits are enough to listen to; 24 to work on.',
    shareOfSamples: { least: 1, likely: 1, most: 1 },
  },
  sampleRates: SAMPLE_RATES,
  mostChannels: 8,
  packetSamples: 1024,
  leadPackets: 0,
  leadSeconds: {},
  tailSeconds: 0,
  waitsIn: {},
  setUpBytes: 0,
  // `chan` in both; beyond 16 bits a second version of the entry, with `wave` for the order of bytes.
  inMp4: { isoBytes: 0, quickTimeBytes: (bitDepth) => ((bitDepth ?? 16) > 16 ? 52 + 38 + 24 : 36 + 24), runInBytes: 0 },
  codecString: null,
};
