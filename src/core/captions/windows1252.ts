/** What bytes 128 to 159 stand for, where ISO 8859-1 has nothing to show (Encoding Standard, index windows-1252). */
const SHOWN = '€\u0081‚ƒ„…†‡ˆ‰Š‹Œ\u008dŽ\u008f\u0090‘’“”•–—˜™š›œ\u009džŸ';

/**
 * Text in the alphabet in which western captions were written before UTF-8.
 *
 * @param latin - Each byte taken as a character of ISO 8859-1, since decoders at hand take one alphabet for the other.
 */
export function fromWindows1252(latin: string): string {
  return Array.from(latin, (character) => {
    const code = character.charCodeAt(0);
    return code >= 128 && code < 160 ? SHOWN[code - 128]! : character;
  }).join('');
}
