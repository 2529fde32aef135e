import { RATE_MISS } from '../sound/weighSound.ts';
import { SOUNDING_ERROR } from '../sounding/sounding.ts';
import type { VideoCodec } from '../video/codecs.ts';

/** What one finished rendition of a programme really came to. */
export interface CameOut {
  readonly codec: VideoCodec;
  /** The picture's bytes as so many times what its sounding alone had foreseen. */
  readonly ratio: number;
}

/** Where quiet sound could make the picture out to be so much smaller than it is, as a share of it, nothing is learned of the picture. */
const MOST_TAKEN_FOR_PICTURE = 0.25;

/**
 * What a finished file says of its picture.
 *
 * @param file - Its bytes; what its sounding alone foresaw of the picture; what was foreseen of sound and container.
 * @returns The picture as so many times what was foreseen; null where too much of the file is sound.
 */
export function pictureRatio(file: {
  readonly bytes: number;
  readonly sounded: number;
  readonly audio: number;
  readonly container: number;
}): number | null {
  const picture = file.bytes - file.audio - file.container;
  const isTold = file.audio * RATE_MISS.below <= picture * MOST_TAKEN_FOR_PICTURE;
  return file.sounded > 0 && picture > 0 && isTold ? picture / file.sounded : null;
}

/** How a sounding is put right by what a programme's renditions came to. */
export interface Correction {
  /** By this much the sounding is multiplied. */
  readonly factor: number;
  /** How far the truth may lie from that, as shares of it. */
  readonly below: number;
  readonly above: number;
  /** Finished renditions that it rests on. */
  readonly results: number;
}

/** A rendition in another codec of the same programme says so much less. */
const WEIGHT_OF_ANOTHER_CODEC = 0.7;

/** So much of a result stands against it: one alone is not believed whole. */
const DOUBT = 0.6;

/**
 * How far corrected soundings lay from the truth, with one result of the same codec and more, as the logarithm of their
 * ratio: of 48 random settings over the demonstration 44 fell inside, in the order they were made, and half of the ranges were
 * narrower than 24 % to either side (`npm run bench -- forecasts`).
 */
const LEARNED_ERROR = 0.23;

/**
 * What a programme's finished renditions say about its next: what soundings get wrong of a programme they get wrong
 * again, since the same stretches stood for the whole.
 *
 * @param cameOut - Of this programme, the newest first.
 */
export function correctionOf(cameOut: readonly CameOut[], codec: VideoCodec): Correction {
  const results = cameOut.filter(({ ratio }) => Number.isFinite(ratio) && ratio > 0);
  const weights = results.map((one) => (one.codec === codec ? 1 : WEIGHT_OF_ANOTHER_CODEC));
  const weight = weights.reduce((sum, one) => sum + one, 0);
  if (weight === 0) return { factor: 1, ...SOUNDING_ERROR, results: 0 };
  const mean = results.reduce((sum, { ratio }, index) => sum + Math.log(ratio) * (weights[index] ?? 0), 0) / weight;
  const belief = weight / (weight + DOUBT);
  // From what is not learned yet to what is: the range narrows as results come in.
  const unlearned = Math.log(1 + SOUNDING_ERROR.above);
  const error = LEARNED_ERROR * belief + unlearned * (1 - belief);
  return {
    factor: Math.exp(mean * belief),
    below: 1 - Math.exp(-error),
    above: Math.exp(error) - 1,
    results: results.length,
  };
}
