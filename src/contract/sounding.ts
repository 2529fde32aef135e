import { number, string } from 'yup';
import type { Preparation } from '../core/geometry/preparation.ts';
import type { Portion } from '../core/programme/facts.ts';
import { VIDEO_CODECS, type VideoCodec } from '../core/video/codecs.ts';
import { cropSchema, deinterlaceSchema } from './recipe.ts';
import { fault, strictObject } from './strictObject.ts';

const side = number()
  .required(fault('a number of pixels'))
  .integer(fault('a whole number of pixels'))
  .min(32, fault('at least 32 pixels'))
  .max(8192, fault('at most 8192 pixels'));

const frame = number().integer(fault('a whole frame number')).min(0, fault('a frame number of 0 or more'));

/** What a sounding is asked for. */
export const soundingRequestSchema = strictObject({
  codec: string()
    .required(fault(`one of ${VIDEO_CODECS.join(', ')}`))
    .oneOf(VIDEO_CODECS, fault(`one of ${VIDEO_CODECS.join(', ')}`)),
  width: side,
  height: side,
  deinterlace: deinterlaceSchema.default(null),
  crop: cropSchema.default(null),
  portion: strictObject({
    inFrame: frame.required(fault('a frame number')),
    outFrame: frame.required(fault('a frame number')),
  })
    .nullable()
    .default(null),
}).required(fault('what is to be sounded'));

export interface SoundingRequest extends Preparation {
  readonly codec: VideoCodec;
  readonly width: number;
  readonly height: number;
  /** null takes the whole programme. */
  readonly portion: Portion | null;
}

/** Where a sounding that is not there yet stands. */
export interface SoundingStanding {
  readonly state: 'not-measured' | 'waiting' | 'measuring';
  /** Measurements that come before it. */
  readonly ahead: number;
}
