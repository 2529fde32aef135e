import type { SoundDefinition } from '../sound/definition.ts';
import type { Rational } from '../timing/rational.ts';
import type { Bytes } from '../units.ts';
import type { VideoDefinition } from '../video/definition.ts';
import type { HeldLabels } from './labels.ts';

/** How a file of a kind is named and announced. */
export interface FileKind {
  /** With its dot. */
  readonly extension: string;
  readonly mime: string;
}

/** What is known of one track of sound before it is encoded. */
export interface SoundOutlook {
  readonly codec: SoundDefinition;
  readonly packets: number;
  readonly packetsPerSecond: number;
  /** null for compressed sound. */
  readonly bitDepth: number | null;
}

/** What is known of a rendition before it is encoded. */
export interface ContainerOutlook {
  readonly video: {
    readonly codec: VideoDefinition;
    readonly frames: number;
    readonly rate: Rational;
    /** Whether transparency goes beside each frame, as a picture of its own. */
    readonly hasSecondPicture: boolean;
  } | null;
  readonly sounds: readonly SoundOutlook[];
  readonly keyframeInterval: number;
  readonly payloadBytes: number;
}

/** What a container is and can do. */
export interface ContainerDefinition {
  readonly name: string;
  /** As it reads at the head of a sentence. */
  readonly article: 'A' | 'An';
  readonly hint: string;
  /** null where it holds sound only. */
  readonly withPicture: FileKind | null;
  readonly soundAlone: FileKind;
  /** Whether it holds more than one track of sound. */
  readonly holdsSeveralSounds: boolean;
  /** What it tells beside its streams. */
  readonly holds: HeldLabels;
  /** Whether browsers play files of it at all (measured with Chromium; common practice for the others). */
  readonly playsInBrowsers: boolean;
  /**
   * The container's own bytes before encoding: rather a little above the truth.
   *
   * @param outlook - Codecs that go in this container.
   */
  readonly foreseeBytes: (outlook: ContainerOutlook) => Bytes;
}
