import { object, ValidationError, type ObjectShape, type Schema } from 'yup';

/**
 * Wording for a field that is not as it should be: what was expected, what arrived.
 *
 * @param expected - As it reads after “Expected”.
 */
export function fault(expected: string): (params: { value?: unknown }) => string {
  return ({ value }) =>
    value === undefined ? `Expected ${expected}; it is missing.` : `Expected ${expected}, got ${show(value)}.`;
}

/**
 * An object that refuses unknown keys by name.
 */
export function strictObject<Shape extends ObjectShape>(shape: Shape) {
  return object(shape).noUnknown(
    ({ unknown }: { unknown?: unknown }) =>
      `Unknown key: ${String(unknown)}. Known are ${Object.keys(shape).join(', ')}.`,
  );
}

export interface FieldFault {
  /** Dotted path, empty for the whole. */
  readonly field: string;
  readonly message: string;
}

export type Parsed<Value> =
  | { readonly ok: true; readonly value: Value }
  | { readonly ok: false; readonly faults: readonly [FieldFault, ...FieldFault[]] };

/**
 * Checks a value strictly (no text is taken for a number) and then fills in defaults.
 */
export function parseWith<Value>(schema: Schema<Value>, input: unknown): Parsed<Value> {
  try {
    schema.validateSync(input, { strict: true, abortEarly: false });
    return { ok: true, value: schema.cast(input) };
  } catch (error) {
    if (!(error instanceof ValidationError)) throw error;
    const inner = error.inner.length > 0 ? error.inner : [error];
    const faults = inner.map((one) => ({ field: one.path ?? '', message: plain(one) }));
    return { ok: false, faults: faults as [FieldFault, ...FieldFault[]] };
  }
}

/** The library words a wrong type in its own way. */
function plain(error: ValidationError): string {
  if (error.type !== 'typeError') return error.message;
  const expected = String(error.params?.['type'] ?? 'another kind of value');
  return `Expected ${expected === 'object' ? 'an object' : `a ${expected}`}, got ${show(error.params?.['originalValue'] ?? error.value)}.`;
}

function show(value: unknown): string {
  const text = JSON.stringify(value) ?? String(value);
  return text.length > 60 ? `${text.slice(0, 60)}…` : text;
}
