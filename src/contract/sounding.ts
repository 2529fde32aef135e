import { string, type InferType, type Schema } from 'yup';
import type { Portion, ProgrammeFacts } from '../core/programme/facts.ts';
import { resultRate } from '../core/recipe/frameRate.ts';
import { ratedVideo, renditionSize, type Recipe } from '../core/recipe/recipe.ts';
import type { Rational } from '../core/timing/rational.ts';
import { RATED_CODECS } from '../core/video/codecs.ts';
import { cropSchema, deinterlaceSchema } from './recipe.ts';
import { fraction } from './fraction.ts';
import { frameSide } from './frameSide.ts';
import { spanFields } from './span.ts';
import { fault, strictObject } from './strictObject.ts';

const side = frameSide.required(fault('a number of pixels'));

/** What a sounding is asked for. */
export const soundingRequestSchema = strictObject({
  codec: string()
    .required(fault(`one of ${RATED_CODECS.join(', ')}`))
    .oneOf(RATED_CODECS, fault(`one of ${RATED_CODECS.join(', ')}`)),
  width: side,
  height: side,
  deinterlace: deinterlaceSchema.default(null),
  crop: cropSchema.default(null),
  /** Frames a second of the result; null takes them as they are. */
  frameRate: fraction.nullable().default(null) as unknown as Schema<Rational | null>,
  /** null takes the whole programme. */
  portion: strictObject(spanFields).nullable().default(null),
}).required(fault('what is to be sounded'));

export type SoundingRequest = InferType<typeof soundingRequestSchema>;

/**
 * What has to be sounded so that an order's size can be foreseen.
 *
 * @returns null where no rate or quality decides: sound only, a copy, a master.
 */
export function soundingOf(facts: ProgrammeFacts, recipe: Recipe, portion: Portion | null): SoundingRequest | null {
  const video = ratedVideo(recipe);
  const size = video && renditionSize(facts, recipe.picture);
  // A quick encode says nothing of the second picture.
  if (!video || video.alpha || !size) return null;
  const { crop, deinterlace } = recipe.picture;
  const span = portion && { inFrame: portion.inFrame, outFrame: portion.outFrame };
  const frameRate = resultRate(facts, recipe.time.frameRate);
  return { codec: video.codec, ...size, crop, deinterlace, frameRate, portion: span };
}

/** Where a sounding that is not there yet stands. */
export interface SoundingStanding {
  readonly state: 'not-measured' | 'waiting' | 'measuring';
  /** Measurements that come before it. */
  readonly ahead: number;
}
