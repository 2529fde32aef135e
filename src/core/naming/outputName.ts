import { isStorable } from '../text.ts';
import { fillTemplate, USUAL_NAME, USUAL_SOUND_NAME, type NameFields } from './nameTemplate.ts';

/** File systems of this machine take 255 bytes; the temporary name adds up to 60. */
const LONGEST_NAME_BYTES = 180;
const LONGEST_PORTION_BYTES = 60;
/** Of a programme's name stays at least so much, whatever else is to be told. */
const LEAST_PROGRAMME_BYTES = 20;
/** For a number and the ending. */
const ENDING_BYTES = 10;

/**
 * The name a rendition gets when none was typed. What is too long of the programme's name is left out before anything else is.
 *
 * @param template - As `faultInTemplate` takes it; null for the usual one.
 * @param fields - The programme's name with or without its extension.
 * @param extension - Of the container, with its dot.
 * @returns With the extension; unsafe characters replaced, at most 180 bytes of UTF-8.
 */
export function proposeOutputName(template: string | null, fields: NameFields, extension: string): string {
  const pattern = template ?? (fields.size === '' ? USUAL_SOUND_NAME : USUAL_NAME);
  const longest = LONGEST_NAME_BYTES - ENDING_BYTES;
  const programme = makeSafe(fields.programme.replace(/\.[A-Za-z0-9]{1,5}$/, '')) || 'rendition';
  const told = { ...fields, portion: shorten(makeSafe(fields.portion), LONGEST_PORTION_BYTES) };
  const rest = byteLength(fillTemplate(pattern, { ...told, programme: 'x' }));
  const room = Math.max(LEAST_PROGRAMME_BYTES, longest - rest);
  const name = fillTemplate(pattern, { ...told, programme: shorten(programme, room) });
  return shorten(makeSafe(name) || 'rendition', longest) + extension;
}

/**
 * The name with a number for when it is taken: `a.mov` → `a 2.mov`.
 *
 * @param number - From 2.
 */
export function numberName(name: string, number: number): string {
  const dot = name.lastIndexOf('.');
  return dot > 0 ? `${name.slice(0, dot)} ${number}${name.slice(dot)}` : `${name} ${number}`;
}

/** A name as the strictest receivers take it: letters, digits, hyphens and underscores, and the ending. */
export function plainName(name: string): string {
  const dot = name.lastIndexOf('.');
  const [stem, ending] = dot > 0 ? [name.slice(0, dot), name.slice(dot)] : [name, ''];
  const plain = stem
    .normalize('NFKD')
    .replace(/[^A-Za-z0-9_-]+/g, '-')
    .replace(/^-+|-+$/g, '');
  return `${plain || 'rendition'}${ending}`;
}

/**
 * A typed name with the container's own ending: another one would make players and receivers take it for what it is not.
 *
 * @param ending - With its dot, such as `.mov`.
 */
export function withEnding(name: string, ending: string): string {
  return name.toLowerCase().endsWith(ending) ? name : `${name}${ending}`;
}

/**
 * Says what is wrong with a typed file name.
 *
 * @returns null when it can be used as it is.
 */
export function faultInName(name: string): string | null {
  if (name.trim() === '') return 'The name is empty; type a file name.';
  if (/[/\\]/.test(name)) return 'The name holds a slash; give a file name without folders.';
  // eslint-disable-next-line no-control-regex -- control characters are what is looked for
  if (/[\u0000-\u001f\u007f]/.test(name)) return 'The name holds a control character or a line break; leave it out.';
  if (!isStorable(name)) {
    return 'The name holds half a character; type it again.';
  }
  if (name.startsWith('.')) return 'The name begins with a dot, which hides the file; begin with a letter or number.';
  if (byteLength(name) > LONGEST_NAME_BYTES) {
    return `The name is longer than ${LONGEST_NAME_BYTES} bytes; shorten it.`;
  }
  return null;
}

function makeSafe(stem: string): string {
  return (
    stem
      // eslint-disable-next-line no-control-regex -- control and bidirectional marks have no place in a file name
      .replace(/[\u0000-\u001f\u007f\u200e\u200f\u202a-\u202e\u2066-\u2069]/g, '')
      .replace(/[/\\:*?"<>|]/g, '-')
      .replace(/^[.\s]+/, '')
      .trim()
  );
}

function shorten(text: string, limitBytes: number): string {
  let kept = '';
  let used = 0;
  for (const character of text) {
    used += byteLength(character);
    if (used > limitBytes) break;
    kept += character;
  }
  return kept.trimEnd();
}

function byteLength(text: string): number {
  return new TextEncoder().encode(text).length;
}
