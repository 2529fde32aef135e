import type { Check } from '../../contract/views.ts';

/** A check that what is found is exactly what was expected. */
export function same(name: string, expected: string, found: string): Check {
  return { name, ok: expected === found, expected, found };
}
