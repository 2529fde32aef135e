import { SAFE_MARGIN, shareOfPlace, type MarkChoice } from '../picture/mark.ts';
import type { Cue } from './cues.ts';

/** A typeface that captions are drawn in, in as many files as its letters are spread over. */
export interface CaptionFont {
  /** The name that its files give it. */
  readonly family: string;
  readonly files: readonly { readonly name: string; readonly bytes: Uint8Array }[];
}

/** How captions are drawn. */
export interface CaptionLook {
  readonly font: CaptionFont;
  /** Of the picture, as it is shown: width over height. */
  readonly shape: number;
  /** What the letters' white is as a signal, from 0 to 255; less than that where the signal reaches beyond white paper. */
  readonly white: number;
}

/** Lines that everything in the script is measured in. */
const LINES = 1000;

/** Of the height letters take a twentieth, of a narrow picture's width a fourteenth (common practice, no source). */
const LETTERS_OF_HEIGHT = 0.05;
const LETTERS_OF_WIDTH = 0.07;

/**
 * A script of captions to be drawn, with its letters inside (Advanced SubStation Alpha, version 4.00+, from memory).
 *
 * @param cues - From the beginning of what they are drawn into.
 */
export function writeSubStation(cues: readonly Cue[], look: CaptionLook): string {
  const letters = Math.round(Math.min(LETTERS_OF_HEIGHT * LINES, LETTERS_OF_WIDTH * columnsOf(look)));
  return writeScript(look, { letters, opacity: 1 }, cues.map(writeCue));
}

/** A script of a mark that stands as long as there are frames. */
export function writeMark(
  { text, place, size, opacity }: MarkChoice & { readonly text: string },
  look: CaptionLook,
): string {
  const { across, down } = shareOfPlace(place);
  // Scripts count places as the keys of a calculator, from below.
  const key = 1 + 2 * across + 3 * (2 - 2 * down);
  const letters = Math.max(1, Math.round(size * LINES));
  const line = `Dialogue: 0,0:00:00.00,${LAST_MOMENT},Caption,,0,0,0,,{\\an${key}}${escaped(text)}`;
  return writeScript(look, { letters, opacity }, [line]);
}

const LAST_MOMENT = '999:59:59.99';

function columnsOf({ shape }: CaptionLook): number {
  return Math.round(LINES * shape);
}

function writeScript(
  look: CaptionLook,
  { letters, opacity }: { readonly letters: number; readonly opacity: number },
  lines: readonly string[],
): string {
  const { font, white } = look;
  const columns = columnsOf(look);
  const [across, down] = [Math.round(SAFE_MARGIN * columns), Math.round(SAFE_MARGIN * LINES)];
  const hex = (value: number) => Math.round(value).toString(16).padStart(2, '0').toUpperCase();
  const clear = `&H${hex(255 * (1 - opacity))}`;
  const style = [
    ...['Caption', font.family, letters, `${clear}${hex(white).repeat(3)}`, ...Array<string>(3).fill(`${clear}000000`)],
    ...[0, 0, 0, 0, 100, 100, 0, 0, 1, (letters * 0.08).toFixed(1), 0, 2, across, across, down, 1],
  ];
  return [
    '[Script Info]',
    'ScriptType: v4.00+',
    `PlayResX: ${columns}`,
    `PlayResY: ${LINES}`,
    'WrapStyle: 0',
    'ScaledBorderAndShadow: yes',
    '',
    '[V4+ Styles]',
    'Format: Name, Fontname, Fontsize, PrimaryColour, SecondaryColour, OutlineColour, BackColour, Bold, Italic, Underline, StrikeOut, ScaleX, ScaleY, Spacing, Angle, BorderStyle, Outline, Shadow, Alignment, MarginL, MarginR, MarginV, Encoding',
    `Style: ${style.join(',')}`,
    '',
    '[Fonts]',
    ...font.files.flatMap(({ name, bytes }) => [`fontname: ${name}`, ...encodeFont(bytes)]),
    '',
    '[Events]',
    'Format: Layer, Start, End, Style, Name, MarginL, MarginR, MarginV, Effect, Text',
    ...lines,
    '',
  ].join('\n');
}

function writeCue({ fromSeconds, toSeconds, settings, text }: Cue): string {
  return `Dialogue: 0,${stamp(fromSeconds)},${stamp(toSeconds)},Caption,,0,0,0,,${placeOf(settings)}${drawn(text)}`;
}

/** Above or below, at the left, in the middle or at the right: as near as a script comes to where WebVTT puts a cue. */
function placeOf(settings: string): string {
  const line = /(?:^|\s)line:(-?[\d.]+)(%?)/.exec(settings);
  const align = /(?:^|\s)align:(start|left|end|right)/.exec(settings)?.[1];
  const isAbove =
    line !== null && (line[2] === '%' ? Number(line[1]) < 50 : Number(line[1]) >= 0 && Number(line[1]) < 8);
  const column = align === 'start' || align === 'left' ? 1 : align === 'end' || align === 'right' ? 3 : 2;
  const place = column + (isAbove ? 6 : 0);
  return place === 2 ? '' : `{\\an${place}}`;
}

const MARKS: Readonly<Record<string, string>> = {
  '<i>': '{\\i1}',
  '</i>': '{\\i0}',
  '<u>': '{\\u1}',
  '</u>': '{\\u0}',
  '<b>': '{\\b1}',
  '</b>': '{\\b0}',
};

const ENTITIES: Readonly<Record<string, string>> = {
  '&amp;': '&',
  '&lt;': '<',
  '&gt;': '>',
  '&nbsp;': '\\h',
  '&lrm;': '\u200e',
  '&rlm;': '\u200f',
};

/** WebVTT's marks as a script has them. */
function drawn(text: string): string {
  return escaped(text)
    .replace(/<[^>]*>/g, (mark) => MARKS[mark] ?? '')
    .replace(/&[a-z]+;/g, (entity) => ENTITIES[entity] ?? entity)
    .replace(/\n/g, '\\N');
}

/** What means something to a script is told so. */
function escaped(text: string): string {
  return text.replace(/\\/g, '\\\u2060').replace(/[{}]/g, (brace) => `\\${brace}`);
}

/** In hundredths of a second, as they are written. */
function stamp(seconds: number): string {
  const hundredths = Math.round(seconds * 100);
  const two = (of: number) => String(of).padStart(2, '0');
  const [hours, minutes] = [Math.floor(hundredths / 360_000), Math.floor(hundredths / 6000) % 60];
  return `${hours}:${two(minutes)}:${two(Math.floor(hundredths / 100) % 60)}.${two(hundredths % 100)}`;
}

const LONGEST_LINE = 80;

/** Three bytes become four signs from “!” on, a rest of one or two bytes two or three. */
function encodeFont(bytes: Uint8Array): string[] {
  let signs = '';
  for (let at = 0; at < bytes.length; at += 3) {
    const [first, second = 0, third = 0] = bytes.subarray(at, at + 3) as unknown as [number, number?, number?];
    const group = [first >> 2, ((first & 3) << 4) | (second >> 4), ((second & 15) << 2) | (third >> 6), third & 63];
    signs += String.fromCharCode(...group.slice(0, 1 + Math.min(3, bytes.length - at)).map((six) => six + 33));
  }
  return signs.match(new RegExp(`.{1,${LONGEST_LINE}}`, 'gs')) ?? [];
}
