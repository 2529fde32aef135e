import { number, string } from 'yup';
import { VIDEO_CODECS, type VideoCodec } from '../core/codec/tables.ts';
import type { Preparation } from '../core/geometry/preparation.ts';
import { cropSchema, deinterlaceSchema } from './recipe.ts';
import { fault, strictObject } from './strictObject.ts';

const side = number()
  .required(fault('a number of pixels'))
  .integer(fault('a whole number of pixels'))
  .min(32, fault('at least 32 pixels'))
  .max(8192, fault('at most 8192 pixels'));

/** What a sounding is asked for. */
export const soundingQuerySchema = strictObject({
  codec: string()
    .required(fault(`one of ${VIDEO_CODECS.join(', ')}`))
    .oneOf(VIDEO_CODECS, fault(`one of ${VIDEO_CODECS.join(', ')}`)),
  width: side,
  height: side,
  deinterlace: deinterlaceSchema.default(null),
  crop: cropSchema.default(null),
}).required();

export interface SoundingQuery extends Preparation {
  readonly codec: VideoCodec;
  readonly width: number;
  readonly height: number;
}
