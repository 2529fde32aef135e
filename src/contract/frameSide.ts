import { number } from 'yup';
import { fault } from './strictObject.ts';

/** Largest side any of the encoders takes. */
export const LARGEST_SIDE = 8192;

/** The width or the height of a picture. */
export const frameSide = number()
  .integer(fault('a whole number of pixels'))
  .min(16, fault('at least 16 pixels'))
  .max(LARGEST_SIDE, fault(`at most ${LARGEST_SIDE} pixels`));
