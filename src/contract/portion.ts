import { array, number, string } from 'yup';
import { fault, strictObject } from './strictObject.ts';

const frame = () =>
  number()
    .required(fault('a frame number'))
    .integer(fault('a whole frame number'))
    .min(0, fault('a frame number of 0 or more'));

/** Portions a programme can have at most. */
const MOST_PORTIONS = 200;

/** A programme's portions as they are saved; the out frame is included. */
export const portionsSchema = array()
  .of(
    strictObject({
      id: string().min(1, fault('an id, or none')).max(64, fault('an id of at most 64 characters')).optional(),
      name: string().min(1, fault('a name, or none')).max(120, fault('at most 120 characters')).optional(),
      inFrame: frame(),
      outFrame: frame(),
    }).required(),
  )
  .max(MOST_PORTIONS, fault(`at most ${MOST_PORTIONS} portions`))
  .required(fault('a list of portions'));

export interface PortionRequest {
  readonly id?: string;
  readonly name?: string;
  readonly inFrame: number;
  readonly outFrame: number;
}
