import { array, number, object, string } from 'yup';
import { parseWith } from '../strictObject.ts';
import type { FillView } from '../views.ts';
import { StoredUnreadable } from './unreadable.ts';

/** The version of results as they are stored. */
export const RESULT_VERSION = 2;

const fillSchema = object({
  cap: number().required(),
  outcome: string().oneOf(['filled', 'saturated', 'passes-spent', 'over']).required(),
  joinedFrom: number().nullable().defined(),
  retouches: array(object({ quality: number().required() })).required(),
  secondPasses: array(object({ bytes: number().required() })).required(),
}).nullable();

/**
 * How a size was met, as it lies in the database. Version 1 knew rates only and wrote no version.
 *
 * @throws StoredUnreadable for what is damaged.
 */
export function readFill(stored: unknown): FillView | null {
  const parsed = parseWith(fillSchema, stored ?? null);
  if (!parsed.ok) throw new StoredUnreadable('A result', `${parsed.faults[0].field}: ${parsed.faults[0].message}`);
  if (parsed.value === null || parsed.value === undefined) return null;
  // The schema vouches for what code relies on; the rest is as it was written.
  const { version, ...fill } = stored as FillView & { version?: number };
  if (version === RESULT_VERSION) return fill;
  return { ...fill, secondPasses: fill.secondPasses.map((pass) => ({ ...pass, quality: null })) };
}

/** How a size was met, as it is stored. */
export function writeFill(fill: FillView | null): string | null {
  return fill && JSON.stringify({ version: RESULT_VERSION, ...fill });
}
