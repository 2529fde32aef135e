import type { Container } from '../container/names.ts';

export const CHANNEL_CHOICES = ['mono', 'stereo'] as const;
export type Channels = (typeof CHANNEL_CHOICES)[number];

export const CHANNEL_COUNT: Readonly<Record<Channels, number>> = { mono: 1, stereo: 2 };

/** Sample rates any of the codecs is written at. */
export const SAMPLE_RATES = [44100, 48000] as const;

/** What a sound codec is and can do; its encoder lies in the engine. */
export interface SoundDefinition {
  /** The trade's name. */
  readonly name: string;
  readonly hint: string;
  readonly containers: readonly Container[];
  /** Kilobits per second its encoder takes. */
  readonly kbps: Readonly<Record<Channels, readonly [least: number, most: number]>>;
  /** What people usually take, and how it is said. */
  readonly usualKbps: Readonly<Record<Channels, number>>;
  readonly rateHint: string;
  readonly sampleRates: readonly number[];
  /** Samples a packet holds, at the file's own sample rate. */
  readonly packetSamples: number;
  /** Packets the encoder adds in front, which are not played. */
  readonly leadPackets: number;
  /** How long before the picture its first packet lies where a container has no other way to say that it is not played. */
  readonly leadSeconds: number;
  /** In codec strings (RFC 6381). */
  readonly codecString: string;
}

/**
 * Packets of a track.
 *
 * @param samples - Of sound, without the encoder's own lead, which is added here.
 */
export function countPackets({ packetSamples, leadPackets }: SoundDefinition, samples: number): number {
  return Math.ceil(samples / packetSamples) + leadPackets;
}
