/** Lines of fields as comma-separated values (RFC 4180). */
export function writeCsv(lines: readonly (readonly (string | number | null)[])[]): string {
  return lines.map((line) => line.map(field).join(',')).join('\r\n') + '\r\n';
}

/** Quoted where it has to be; text that a table would take for a formula is kept from being one. */
function field(value: string | number | null): string {
  const text = String(value ?? '');
  const safe = typeof value === 'string' && /^[=+\-@\t\r]/.test(text) ? `'${text}` : text;
  return /[",\r\n]/.test(safe) ? `"${safe.replaceAll('"', '""')}"` : safe;
}
