import type { SoundDefinition } from './definition.ts';

/** 312 samples of pre-skip (RFC 7845), as its encoder has it. */
const PRE_SKIP_SECONDS = 312 / 48000;

/** Opus (RFC 6716; in files RFC 7845). */
export const opus: SoundDefinition = {
  name: 'Opus',
  hint: 'Good at low rates; plays in every browser but old ones.',
  containers: ['webm', 'mp4', 'matroska', 'ogg'],
  storedAs: ['opus'],
  rate: {
    kind: 'asked',
    kbps: { mono: [6, 256], stereo: [12, 510] },
    usualKbps: { mono: 48, stereo: 96 },
    hint: '96 to 160 is usual for stereo, half for mono speech.',
  },
  sampleRates: [48000],
  mostChannels: 8,
  // 20 ms at 48 kHz.
  packetSamples: 960,
  leadPackets: 1,
  leadSeconds: { webm: PRE_SKIP_SECONDS, matroska: PRE_SKIP_SECONDS, ogg: PRE_SKIP_SECONDS },
  tailSeconds: 0,
  waitsIn: {},
  setUpBytes: 60,
  inMp4: { isoBytes: 36 + 19, quickTimeBytes: () => 0, runInBytes: 26 + 36 },
  codecString: 'opus',
};
