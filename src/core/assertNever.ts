/**
 * Closes an exhaustive switch: a forgotten member is a compile error.
 *
 * @throws Always; reached only when data from outside was not parsed at its edge.
 */
export function assertNever(value: never): never {
  throw new Error(`Unexpected value: ${JSON.stringify(value)}`);
}
