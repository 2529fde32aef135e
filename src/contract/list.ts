import { array, boolean, number, string, type InferType } from 'yup';
import { fault, strictObject } from './strictObject.ts';
import { RENDITION_STATES } from './views.ts';

/** Rows of one answer at most. */
export const MOST_ROWS = 200;

/** How many rows are asked for. */
export function rowLimit(most = MOST_ROWS) {
  return number()
    .integer(fault('a whole number of rows'))
    .min(1, fault('at least 1 row'))
    .max(most, fault(`at most ${most} rows`))
    .default(MOST_ROWS);
}

/** What a list of programmes is asked for. */
export const programmesRequestSchema = strictObject({
  /** What the page before gave as `next`; null begins. */
  after: string()
    .matches(/^\d{1,15}_\w{1,64}$/, fault('what an answer gave as “next”'))
    .nullable()
    .default(null),
  limit: rowLimit(),
}).required();

export type ProgrammesRequest = InferType<typeof programmesRequestSchema>;

/** What a list of renditions is asked for. */
export const listRequestSchema = strictObject({
  /** null for all. */
  programmeId: string().nullable().default(null),
  /** null for any. */
  state: array(
    string()
      .required()
      .oneOf(RENDITION_STATES, fault(`one of ${RENDITION_STATES.join(', ')}`)),
  )
    .nullable()
    .default(null),
  /** From the newest back. */
  newest: boolean().default(false),
  /** What the page before gave as `next`; null begins. */
  after: number().integer(fault('what an answer gave as “next”')).min(0).nullable().default(null),
  limit: rowLimit(),
}).required();

export type ListRequest = InferType<typeof listRequestSchema>;
