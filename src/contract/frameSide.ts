import { number } from 'yup';
import { LARGEST_SIDE } from '../core/geometry/frameSize.ts';
import { fault } from './strictObject.ts';

/** The width or the height of a picture. */
export const frameSide = number()
  .integer(fault('a whole number of pixels'))
  .min(16, fault('at least 16 pixels'))
  .max(LARGEST_SIDE, fault(`at most ${LARGEST_SIDE} pixels`));
