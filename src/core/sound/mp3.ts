import type { SoundDefinition } from './definition.ts';

const PACKET_SAMPLES = 1152;

/** Of the encoder and a decoder together, in samples. */
const DELAY = 1105;

/** MPEG-1 audio layer III (ISO/IEC 11172-3). */
export const mp3: SoundDefinition = {
  name: 'MP3',
  hint: 'Plays on everything there is; AAC is better at the same rate.',
  containers: ['mp4', 'mov', 'matroska', 'mp3'],
  storedAs: ['mp3'],
  rate: {
    kind: 'asked',
    // The table of rates of layer III begins and ends there; the encoder takes the nearest.
    kbps: { mono: [32, 320], stereo: [32, 320] },
    usualKbps: { mono: 96, stereo: 192 },
    hint: '128 to 320 is usual for stereo.',
  },
  sampleRates: [44100, 48000],
  mostChannels: 2,
  packetSamples: PACKET_SAMPLES,
  leadPackets: 1,
  // An MP3 file has a place for the delay, which players know and packets do not.
  leadSeconds: { matroska: DELAY / 48000, mp3: DELAY / 44100 },
  tailSeconds: 0.001,
  waitsIn: { matroska: 'mp4' },
  setUpBytes: 0,
  inMp4: { isoBytes: 36 + 44, quickTimeBytes: () => 52 + 24, runInBytes: 0 },
  codecString: 'mp4a.6B',
};
