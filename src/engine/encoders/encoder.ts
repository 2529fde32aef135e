import type { Container } from '../../core/container/names.ts';
import type { PixelFormat } from '../../core/picture/store.ts';
import type { EncodeMaster, EncodePicture, EncodeSound } from '../../core/plan/encodePlan.ts';
import type { RateBuffer } from '../../core/rate/bufferModel.ts';
import type { BitsPerSecond } from '../../core/units.ts';

/** What one run of a picture's encoder does. */
export interface PictureRun {
  readonly target:
    | { readonly kind: 'quality'; readonly value: number }
    | { readonly kind: 'rate'; readonly rate: BitsPerSecond }
    /** Held steadily; only with a buffer. */
    | { readonly kind: 'constant'; readonly rate: BitsPerSecond };
  /** What the rate is kept within, where the encoder can; null for no bound. */
  readonly buffer: RateBuffer | null;
  /** The only pass; one that writes statistics and no picture; one that works by them. */
  readonly pass: 'only' | 'first' | 'second';
  readonly fill: FillSettings | null;
  /** A keyframe is put at this frame besides; only where the encoder takes them. */
  readonly keyframeAt?: number;
}

/**
 * What all encodes for a size target share: they spend nothing beyond the finest sensible quality, and their headers say
 * the same whatever their rate and content, so that groups of pictures can be joined.
 */
export interface FillSettings {
  /** The level every one of them is marked with, such as `4.0`; encoders would choose it by the rate. */
  readonly level: string;
}

/** How an encoder of pictures is asked for, and what it tells. */
export interface Encoder {
  /** As the engine lists it. */
  readonly program: string;
  /** What its frames are called in a container where the usual name is not understood everywhere. */
  readonly tags: Readonly<Partial<Record<Container, string>>>;
  /** What decodes its transparency, where the engine's usual decoder leaves it out. */
  readonly transparentDecoder?: string;
  /** Arguments of one run, after the frames and before the file. */
  readonly arguments: (settings: EncodePicture, format: PixelFormat, run: PictureRun) => string[];
  /**
   * Arguments of a quick encode at a constant quality, to learn what a picture takes. It goes in as many passes as an encode at a constant
   * quality does; the statistics of the first serve every quality.
   */
  readonly gaugeArguments: (quality: number, keyframeInterval: number, pass: PictureRun['pass']) => string[];
}

/** How an encoder of pictures for editing or the archive is asked for. */
export interface MasterEncoder {
  readonly program: string;
  readonly arguments: (settings: EncodeMaster, format: PixelFormat) => string[];
}

/** How an encoder of sound is asked for. */
export interface SoundEncoder {
  readonly program: string;
  readonly arguments: (settings: EncodeSound, container: Container) => string[];
}

/** First-pass statistics, relative to the working folder: a path would need escaping inside encoder settings. */
export const STATISTICS = 'passes.log';
