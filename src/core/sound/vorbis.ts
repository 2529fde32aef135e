import type { SoundDefinition } from './definition.ts';

/** Vorbis (the Vorbis I specification). */
export const vorbis: SoundDefinition = {
  name: 'Vorbis',
  hint: 'An older open format; Opus is better at the same rate.',
  containers: ['webm', 'matroska', 'ogg'],
  storedAs: ['vorbis'],
  rate: {
    kind: 'asked',
    // What its encoder opens at, at both sample rates (measured).
    kbps: { mono: [32, 190], stereo: [48, 400] },
    // It couples the channels of 5.1 and not those of 7.1 (measured).
    leastKbps: { '7.1': 256 },
    usualKbps: { mono: 80, stereo: 160 },
    hint: '128 to 192 is usual for stereo, half for mono speech.',
  },
  sampleRates: [44100, 48000],
  mostChannels: 8,
  // Long blocks; short ones beside a sudden sound hold fewer.
  packetSamples: 1024,
  leadPackets: 1,
  leadSeconds: { matroska: 0.003, webm: 0.003 },
  // At its lowest rates packets are twice as long.
  tailSeconds: 0.004 + 1024 / 44100,
  waitsIn: { matroska: 'mp4', webm: 'mp4' },
  // The code books go before the first packet.
  setUpBytes: 4_400,
  inMp4: null,
  codecString: 'vorbis',
};
