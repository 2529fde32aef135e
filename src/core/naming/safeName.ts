/** Longest name that every file system in use takes, in bytes of UTF-8. */
const LONGEST_BYTES = 255;

/** Room kept for a number in front of the extension. */
const ROOM_FOR_NUMBER = 8;

/** Separators, what some file systems forbid, control characters, and marks that turn the reading direction. */
// eslint-disable-next-line no-control-regex -- control characters are what is looked for
const UNSAFE = /[/\\:*?"<>|\u0000-\u001f\u007f\u200e\u200f\u202a-\u202e\u2066-\u2069]/g;

/**
 * A name that can be given to a file here, as near to the wanted one as possible.
 *
 * @param wanted - As another machine called it; paths keep their last part only.
 * @returns Never empty, never hidden, at most 247 bytes of UTF-8.
 */
export function makeSafeName(wanted: string): string {
  const last = wanted.split(/[/\\]/).at(-1) ?? '';
  const cleaned =
    last
      .normalize('NFC')
      .replace(UNSAFE, '_')
      .replace(/^[.\s]+|[.\s]+$/g, '') || 'upload';
  const dot = cleaned.lastIndexOf('.');
  const extension = dot > 0 && cleaned.length - dot <= 12 ? cleaned.slice(dot) : '';
  return (
    cutBytes(
      cleaned.slice(0, cleaned.length - extension.length),
      LONGEST_BYTES - ROOM_FOR_NUMBER - byteLength(extension),
    ) + extension
  );
}

function cutBytes(text: string, limit: number): string {
  let kept = '';
  let bytes = 0;
  for (const character of text) {
    bytes += byteLength(character);
    if (bytes > limit) break;
    kept += character;
  }
  return kept;
}

function byteLength(text: string): number {
  return new TextEncoder().encode(text).length;
}
