import { describe, expect, it } from 'vitest';
import type { Cue } from './cues.ts';
import { USUAL_MARK } from '../picture/mark.ts';
import { writeMark, writeSubStation } from './subStation.ts';

const FONT = { family: 'Letters', files: [{ name: 'letters.woff2', bytes: Uint8Array.of(0, 255, 1, 2) }] };
const LOOK = { font: FONT, shape: 16 / 9, white: 255 };

function dialogues(cues: readonly Partial<Cue>[]): string[] {
  const whole = cues.map((cue) => ({ fromSeconds: 1, toSeconds: 2.5, settings: '', text: 'x', ...cue }));
  return writeSubStation(whole, LOOK)
    .split('\n')
    .filter((line) => line.startsWith('Dialogue'));
}

const textOf = (text: string, settings = '') => dialogues([{ text, settings }])[0]!.split(',,0,0,0,,')[1];

describe('a script of captions', () => {
  it('tells when each is shown, to the hundredth', () => {
    expect(dialogues([{}, { fromSeconds: 3599.996, toSeconds: 3723.456 }])).toEqual([
      'Dialogue: 0,0:00:01.00,0:00:02.50,Caption,,0,0,0,,x',
      'Dialogue: 0,1:00:00.00,1:02:03.46,Caption,,0,0,0,,x',
    ]);
  });

  it('keeps slanted, underlined and heavy words, and leaves out who speaks', () => {
    expect(textOf('<v Ann>Look, <i>there</i>!\n<b>Up</b> &amp; <u>on</u>')).toBe(
      'Look, {\\i1}there{\\i0}!\\N{\\b1}Up{\\b0} & {\\u1}on{\\u0}',
    );
  });

  it('takes nothing that is said for an order to itself', () => {
    expect(textOf('{\\an8}a')).toBe('\\{\\\u2060an8\\}a');
  });

  it('stands where the cue stands, as near as can be', () => {
    expect(textOf('x', 'line:0')).toBe('{\\an8}x');
    expect(textOf('x', 'line:10% align:start')).toBe('{\\an7}x');
    expect(textOf('x', 'line:-1')).toBe('x');
    expect(textOf('x', 'line:90% align:right')).toBe('{\\an3}x');
    expect(textOf('x', 'position:50%')).toBe('x');
  });

  it('is as large as the picture lets it, in the white of its signal', () => {
    const styleOf = (shape: number, white = 255) =>
      /^Style: (.*)$/m.exec(writeSubStation([], { ...LOOK, shape, white }))![1]!.split(',');
    expect(styleOf(16 / 9).slice(0, 4)).toEqual(['Caption', 'Letters', '50', '&H00FFFFFF']);
    expect(styleOf(9 / 16, 148).slice(2, 4)).toEqual(['39', '&H00949494']);
    expect(styleOf(16 / 9)).toHaveLength(23);
  });

  it('holds its letters, three bytes in four signs and the rest in two or three', () => {
    // Each sign is six bits and 33: 0, 15, 60, 1 and 0, 32.
    expect(writeSubStation([], LOOK)).toContain('fontname: letters.woff2\n!0]"!A\n');
    const long = { ...FONT, files: [{ name: 'a', bytes: new Uint8Array(100) }] };
    const lines = /fontname: a\n([^[]*)\n\n/.exec(writeSubStation([], { ...LOOK, font: long }))![1]!.split('\n');
    expect(lines.map(({ length }) => length)).toEqual([80, 54]);
  });
});

describe('a script of a mark', () => {
  it.each([
    ['top-left', 7],
    ['right', 6],
    ['middle', 5],
    ['bottom', 2],
  ] as const)('stands %s, as long as there are frames', (place, key) => {
    const script = writeMark({ ...USUAL_MARK, file: null, text: 'a{b}', place }, LOOK);
    expect(script).toContain(`Dialogue: 0,0:00:00.00,999:59:59.99,Caption,,0,0,0,,{\\an${key}}a\\{b\\}`);
  });

  it('is as tall and as faint as it is asked to be', () => {
    const script = writeMark({ ...USUAL_MARK, file: null, text: 'a', size: 0.1, opacity: 0.5 }, LOOK);
    expect(script).toContain('Style: Caption,Letters,100,&H80FFFFFF,&H80000000,');
  });
});
