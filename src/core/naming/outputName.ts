import type { FrameSize } from '../geometry/frameSize.ts';
import { isStorable } from '../text.ts';

/** File systems of this machine take 255 bytes; the temporary name adds up to 60. */
const LONGEST_NAME_BYTES = 180;
const LONGEST_PORTION_BYTES = 60;

/**
 * The name a rendition gets when none was typed: the programme's name, the portion's, the frame size and the codec.
 *
 * @param programmeName - File name with or without its extension.
 * @param portionName - null for the whole programme.
 * @param picture - null for a sound-only rendition; `codec` as the trade names it.
 * @param extension - Of the container, with its dot.
 * @returns With the extension; unsafe characters replaced, at most 180 bytes of UTF-8.
 */
export function proposeOutputName(
  programmeName: string,
  portionName: string | null,
  picture: { readonly size: FrameSize; readonly codec: string } | null,
  extension: string,
): string {
  const stem = programmeName.replace(/\.[A-Za-z0-9]{1,5}$/, '');
  const detail = picture
    ? ` ${picture.size.width}x${picture.size.height} ${picture.codec.replace('.', '').toLowerCase()}`
    : ' sound';
  const portion = portionName === null ? '' : `, ${shorten(makeSafe(portionName), LONGEST_PORTION_BYTES)}`;
  const room = LONGEST_NAME_BYTES - new TextEncoder().encode(portion).length - detail.length - 10;
  return shorten(makeSafe(stem), room) + portion + detail + extension;
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
  if (new TextEncoder().encode(name).length > LONGEST_NAME_BYTES) {
    return `The name is longer than ${LONGEST_NAME_BYTES} bytes; shorten it.`;
  }
  return null;
}

function makeSafe(stem: string): string {
  const safe = stem
    // eslint-disable-next-line no-control-regex -- control and bidirectional marks have no place in a file name
    .replace(/[\u0000-\u001f\u007f\u200e\u200f\u202a-\u202e\u2066-\u2069]/g, '')
    .replace(/[/\\:*?"<>|]/g, '-')
    .replace(/^[.\s]+/, '')
    .trim();
  return safe || 'rendition';
}

function shorten(text: string, limitBytes: number): string {
  let kept = '';
  let used = 0;
  for (const character of text) {
    used += new TextEncoder().encode(character).length;
    if (used > limitBytes) break;
    kept += character;
  }
  return kept.trimEnd();
}
