import type { Container } from '../container/names.ts';

/** What a recipe may ask for: so many channels, or as many as the source has. */
export const CHANNEL_CHOICES = ['mono', 'stereo', 'source'] as const;
export type Channels = (typeof CHANNEL_CHOICES)[number];

/** How channels lie around the listener (ITU-R BS.775 for 5.1, BS.2051 for 7.1), and how many they are. */
export const LAYOUT_CHANNELS = { mono: 1, stereo: 2, '5.1': 6, '7.1': 8 } as const;
export type Layout = keyof typeof LAYOUT_CHANNELS;

/** The layout by which a rate is judged where no track is known: stereo where it is the source's own. */
export function nominalLayout(channels: Channels): Layout {
  return channels === 'source' ? 'stereo' : channels;
}

/** The usual layout of so many channels; null where there is none. */
export function layoutOf(channels: number): Layout | null {
  return (Object.keys(LAYOUT_CHANNELS) as Layout[]).find((layout) => LAYOUT_CHANNELS[layout] === channels) ?? null;
}

/** Sample rates any of the codecs is written at. */
export const SAMPLE_RATES = [44100, 48000, 88200, 96000] as const;

/** Bits a sample, for sound that is kept whole. */
export const SOUND_DEPTHS = [16, 24] as const;
export type SoundDepth = (typeof SOUND_DEPTHS)[number];

/** What MP4, M4A and MOV say of a sound beside its packets. */
export interface Mp4SoundEntry {
  /** Sample entry with its boxes in MP4 and M4A, without the bit rate's. */
  readonly isoBytes: number;
  /** The same in MOV. */
  readonly quickTimeBytes: (bitDepth: number | null) => number;
  /** Declares the decoder's run-in (`sgpd`, `sbgp`). */
  readonly runInBytes: number;
}

/** Bits are spent as asked. */
export interface AskedRate {
  readonly kind: 'asked';
  /** Kilobits per second its encoder takes. */
  readonly kbps: Readonly<Record<'mono' | 'stereo', readonly [least: number, most: number]>>;
  /** Of layouts that take more at least than as many pairs of stereo. */
  readonly leastKbps?: Readonly<Partial<Record<Layout, number>>>;
  /** What people usually take, and how it is said. */
  readonly usualKbps: Readonly<Record<'mono' | 'stereo', number>>;
  readonly hint: string;
}

/** Every sample is kept, in as many bits as are asked; how much of bare samples it comes to. */
export interface WholeSound {
  readonly kind: 'whole';
  readonly depthHint: string;
  readonly shareOfSamples: { readonly least: number; readonly likely: number; readonly most: number };
}

/** What a sound codec is and can do; its encoder lies in the engine. */
export interface SoundDefinition {
  /** The trade's name. */
  readonly name: string;
  readonly hint: string;
  readonly containers: readonly Container[];
  /** The engine's names of it in a file. */
  readonly storedAs: readonly string[];
  readonly rate: AskedRate | WholeSound;
  readonly sampleRates: readonly number[];
  /** The most it carries in one track. */
  readonly mostChannels: number;
  /** Samples a packet holds, at the file's own sample rate; the fewest where they differ. */
  readonly packetSamples: number;
  /** Packets the encoder adds in front, which are not played. */
  readonly leadPackets: number;
  /**
   * How long before the picture its first packet lies, in seconds: what the encoder adds in front, where the container
   * does not say that it is not played and so the picture is moved instead.
   */
  readonly leadSeconds: Readonly<Partial<Record<Container, number>>>;
  /** What its encoder may add behind the last sample beyond a packet, in seconds (measured). */
  readonly tailSeconds: number;
  /**
   * Where encoded sound waits for its picture when the container of the result would forget what lies in front of the
   * first sample; in the result's own otherwise.
   */
  readonly waitsIn: Readonly<Partial<Record<Container, Container>>>;
  /** What its decoder must be told beforehand, in bytes, in Matroska, WebM and Ogg. */
  readonly setUpBytes: number;
  /** null where it does not go into MP4 or MOV. */
  readonly inMp4: Mp4SoundEntry | null;
  /** In codec strings (RFC 6381); null when no browser plays it. */
  readonly codecString: string | null;
}

/** The rates an encoder takes for a layout, in kb/s: a pair of surround channels as much as stereo. */
export function kbpsRange({ kbps, leastKbps }: AskedRate, layout: Layout): readonly [least: number, most: number] {
  const [least, most] = layout === 'mono' ? kbps.mono : kbps.stereo.map((one) => one * pairsOf(layout));
  return [leastKbps?.[layout] ?? least!, most!];
}

/** What people usually take for a layout, in kb/s. */
export function usualKbps(rate: AskedRate, layout: Layout): number {
  return layout === 'mono' ? rate.usualKbps.mono : rate.usualKbps.stereo * pairsOf(layout);
}

function pairsOf(layout: Exclude<Layout, 'mono'>): number {
  return LAYOUT_CHANNELS[layout] / 2;
}

/**
 * Packets of a track.
 *
 * @param samples - Of sound, without the encoder's own lead, which is added here.
 */
export function countPackets({ packetSamples, leadPackets }: SoundDefinition, samples: number): number {
  return Math.ceil(samples / packetSamples) + leadPackets;
}
