import { array, string, type InferType } from 'yup';
import { portionName, spanFields } from './span.ts';
import { fault, strictObject } from './strictObject.ts';

/** Portions a programme can have at most. */
const MOST_PORTIONS = 200;

/** A programme's portions as they are saved; the out frame is included. */
export const portionsSchema = array()
  .of(
    strictObject({
      id: string().min(1, fault('an id, or none')).max(64, fault('an id of at most 64 characters')).optional(),
      name: portionName.optional(),
      ...spanFields,
    }).required(),
  )
  .max(MOST_PORTIONS, fault(`at most ${MOST_PORTIONS} portions`))
  .required(fault('a list of portions'));

export type PortionRequest = InferType<typeof portionsSchema>[number];
