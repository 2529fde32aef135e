/** What is shown for a while, in seconds from the beginning. */
export interface Cue {
  readonly fromSeconds: number;
  readonly toSeconds: number;
  /** Where it is shown, as WebVTT writes it; empty for below in the middle. */
  readonly settings: string;
  /** One or more lines, with WebVTT's own marks. */
  readonly text: string;
}

const STAMP = String.raw`(?:(\d+):)?(\d{2}):(\d{2}\.\d{3})`;
const TIMING = new RegExp(String.raw`^${STAMP}[ \t]+-->[ \t]+${STAMP}[ \t]*(.*)$`);

/**
 * The cues of a WebVTT file (W3C, WebVTT: The Web Video Text Tracks Format); notes, styles and regions are left out.
 *
 * @returns In the order of the file.
 */
export function readCues(file: string): Cue[] {
  return file
    .replaceAll(/\r\n?/g, '\n')
    .split(/\n{2,}/)
    .flatMap((block) => {
      const lines = block.split('\n').filter((line) => line !== '');
      // A line before the times is the cue's name.
      const at = lines.findIndex((line) => TIMING.test(line));
      const match = at >= 0 && at <= 1 ? TIMING.exec(lines[at]!) : null;
      if (!match) return [];
      const [, fromHours, fromMinutes, fromSeconds, toHours, toMinutes, toSeconds, settings = ''] = match;
      return [
        {
          fromSeconds: inSeconds(fromHours, fromMinutes, fromSeconds),
          toSeconds: inSeconds(toHours, toMinutes, toSeconds),
          settings: settings.trim(),
          text: lines.slice(at + 1).join('\n'),
        },
      ];
    });
}

/**
 * What is shown in a part, from its beginning; what is on the screen there already is shown at once, and what stays beyond its end ends
 * with it.
 *
 * @param startSeconds - Where the part begins.
 * @param seconds - How long it is.
 */
export function cutCues(cues: readonly Cue[], startSeconds: number, seconds: number): Cue[] {
  return cues
    .map((cue) => ({
      ...cue,
      fromSeconds: Math.max(0, cue.fromSeconds - startSeconds),
      toSeconds: Math.min(seconds, cue.toSeconds - startSeconds),
    }))
    .filter(({ fromSeconds, toSeconds, text }) => text !== '' && toSeconds - fromSeconds >= SHORTEST_SECONDS);
}

/** Times are written in milliseconds. */
const SHORTEST_SECONDS = 0.001;

/** A WebVTT file of cues. */
export function writeCues(cues: readonly Cue[]): string {
  const blocks = cues.map(({ fromSeconds, toSeconds, settings, text }) => {
    const timing = `${stamp(fromSeconds)} --> ${stamp(toSeconds)}`;
    return `${settings === '' ? timing : `${timing} ${settings}`}\n${text}\n`;
  });
  return ['WEBVTT\n', ...blocks].join('\n');
}

function inSeconds(hours = '0', minutes = '0', seconds = '0'): number {
  // In whole milliseconds, as they are written.
  return ((Number(hours) * 60 + Number(minutes)) * 60_000 + Math.round(Number(seconds) * 1000)) / 1000;
}

function stamp(seconds: number): string {
  const milliseconds = Math.round(seconds * 1000);
  const part = (of: number, digits: number) => String(of).padStart(digits, '0');
  const [hours, minutes] = [Math.floor(milliseconds / 3_600_000), Math.floor(milliseconds / 60_000) % 60];
  return `${part(hours, 2)}:${part(minutes, 2)}:${part(Math.floor(milliseconds / 1000) % 60, 2)}.${part(milliseconds % 1000, 3)}`;
}
