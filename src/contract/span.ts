import { number, string } from 'yup';
import { fault } from './strictObject.ts';

const frame = number()
  .required(fault('a frame number'))
  .integer(fault('a whole frame number'))
  .min(0, fault('a frame number of 0 or more'));

/** Frames of a programme as they travel; the out frame is included. */
export const spanFields = { inFrame: frame, outFrame: frame };

/** What a portion is called. */
export const portionName = string().min(1, fault('a name, or none')).max(120, fault('at most 120 characters'));
