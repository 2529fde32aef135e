// eslint-disable-next-line no-control-regex -- a NUL is what is looked for
const UNSTORABLE = /\u0000|[\ud800-\udbff](?![\udc00-\udfff])|(?<![\ud800-\udbff])[\udc00-\udfff]/;
const ALL_UNSTORABLE = new RegExp(UNSTORABLE, 'g');

/** Whether a text holds no NUL and no half of a character (a lone surrogate), which no database and no file name can. */
export function isStorable(text: string): boolean {
  return !UNSTORABLE.test(text);
}

/**
 * Words in a row as a sentence has them: `A`, `A and B`, `A, B and C`.
 *
 * @returns Empty for none.
 */
export function joinWords(words: readonly string[], before: 'and' | 'or' = 'and'): string {
  const last = words.at(-1) ?? '';
  return words.length < 2 ? last : `${words.slice(0, -1).join(', ')} ${before} ${last}`;
}

/** What is said one after another, a comma before each; empty parts are left out. */
export function afterCommas(parts: readonly string[]): string {
  return parts.map((part) => part && `, ${part}`).join('');
}

/** A number with a real minus sign: `−0.5`. */
export function withMinus(value: number): string {
  return String(value).replace('-', '−');
}

/** A number with its sign, where it has one: `+3`, `−0.5`, `0`. */
export function writeSigned(value: number): string {
  return `${value > 0 ? '+' : ''}${withMinus(value)}`;
}

/** A text with U+FFFD in the place of what could not be stored. */
export function makeStorable(text: string): string {
  return text.replace(ALL_UNSTORABLE, '\ufffd');
}

/**
 * A text in one line of signs that can be seen.
 *
 * @param longest - In signs; what is longer ends in “…”.
 * @returns null where nothing is left.
 */
export function tidyLine(text: string, longest: number): string | null {
  const line = text.replace(/[\p{C}\s]+/gu, ' ').trim();
  const signs = Array.from(line);
  if (signs.length <= longest) return line || null;
  return `${signs
    .slice(0, longest - 1)
    .join('')
    .trim()}…`;
}

/** The size as it is put into a field, so that reading it back gives the same bytes. */
export function writeSize(value: number): string {
  if (value % 1000 !== 0) return `${value} bytes`;
  return value >= 1e6 && value % 10_000 === 0 ? `${value / 1e6} MB` : `${value / 1e3} kB`;
}

/** Whether words are all found in a text, each anywhere, in whatever case. */
export function hasWords(text: string, words: string): boolean {
  const lower = text.toLowerCase();
  return words
    .toLowerCase()
    .split(/\s+/)
    .every((word) => lower.includes(word));
}
