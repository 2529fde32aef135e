import { parse } from 'csv-parse/sync';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { writeCsv } from './csv.ts';

/** Against csv-parse, an independent reader of the package registry (RFC 4180). */
describe('comma-separated values', () => {
  it('come back as they were written, but for what a table would take for a formula', () => {
    const field = fc.oneof(fc.integer(), fc.constant(null), fc.string());
    const line = fc.array(field, { minLength: 3, maxLength: 3 });
    fc.assert(
      fc.property(fc.array(line, { minLength: 1, maxLength: 5 }), (lines) => {
        const read = parse(writeCsv(lines), { relax_column_count: true, skip_empty_lines: false });
        const expected = lines.map((one) =>
          one.map((value) => {
            const text = String(value ?? '');
            return typeof value === 'string' && /^[=+\-@\t\r]/.test(text) ? `'${text}` : text;
          }),
        );
        expect(read).toEqual(expected);
      }),
    );
  });
});
