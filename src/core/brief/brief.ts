import type { Container } from '../container/names.ts';
import type { SoundCodec } from '../sound/codecs.ts';
import type { Rational } from '../timing/rational.ts';
import type { VideoCodec } from '../video/codecs.ts';

/** What a receiver asks for: `linstock.brief/1`, with every default filled in; null asks for nothing. */
export interface Brief {
  readonly format: 'linstock.brief/1';
  readonly name: string;
  /** Of the whole file. */
  readonly maxBytes: number | null;
  /** How the receiver counts: `MiB` where a megabyte has 1,048,576 bytes. */
  readonly unit: 'MB' | 'MiB';
  /** All streams together, and the picture alone, averaged over the whole, in kb/s. */
  readonly maxTotalKbps: number | null;
  readonly maxPictureKbps: number | null;
  /** False where a file of sound alone is wanted; null where either will do. */
  readonly picture: boolean | null;
  readonly maxWidth: number | null;
  readonly maxHeight: number | null;
  /** Width to height, as it is shown. */
  readonly shape: Rational | null;
  readonly maxFrameRate: Rational | null;
  readonly containers: readonly Container[] | null;
  readonly codecs: readonly VideoCodec[] | null;
  /** Pixels as every player takes them: 8 bits in 4:2:0. */
  readonly plainPixels: boolean;
  /** As people write it; of H.264 and HEVC, whose files say it. */
  readonly maxLevel: string | null;
  readonly maxKeyframeSeconds: number | null;
  readonly soundCodecs: readonly SoundCodec[] | null;
  readonly maxSoundKbps: number | null;
  readonly maxChannels: number | null;
  /** Of the whole, in LUFS with so many LU to either side, and its highest true peak (EBU R 128, ITU-R BS.1770). */
  readonly loudness: BriefLoudness | null;
  readonly minSeconds: number | null;
  readonly maxSeconds: number | null;
  /** The file's name with its ending: letters, digits, hyphens, underscores and one dot. */
  readonly plainName: boolean;
}

/** How loud a receiver wants its sound. */
export interface BriefLoudness {
  readonly lufs: number;
  readonly within: number;
  readonly maxTruePeakDbtp: number | null;
}

/** A receiver that asks for nothing. */
export const OPEN_BRIEF: Brief = {
  format: 'linstock.brief/1',
  name: 'Untitled',
  maxBytes: null,
  unit: 'MB',
  maxTotalKbps: null,
  maxPictureKbps: null,
  picture: null,
  maxWidth: null,
  maxHeight: null,
  shape: null,
  maxFrameRate: null,
  containers: null,
  codecs: null,
  plainPixels: false,
  maxLevel: null,
  maxKeyframeSeconds: null,
  soundCodecs: null,
  maxSoundKbps: null,
  maxChannels: null,
  loudness: null,
  minSeconds: null,
  maxSeconds: null,
  plainName: false,
};
