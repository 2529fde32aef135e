/**
 * A moment as hours, minutes, seconds and milliseconds: `00:01:02.345`. Rounded up, so that reading it back never finds
 * the frame before the one that begins there.
 *
 * @param seconds - From 0.
 */
export function formatClockTime(seconds: number): string {
  // A hair is taken off so that 0.04 s is 40 ms in spite of floating point.
  const milliseconds = Math.ceil(seconds * 1000 - 1e-6);
  const whole = Math.floor(milliseconds / 1000);
  const parts = [Math.floor(whole / 3600), Math.floor(whole / 60) % 60, whole % 60];
  const pad = (value: number, digits: number) => String(value).padStart(digits, '0');
  return `${parts.map((part) => pad(part, 2)).join(':')}.${pad(milliseconds % 1000, 3)}`;
}

/** @returns null where the text is not seconds such as `12.5s`. */
export function readSeconds(text: string): number | null {
  const seconds = /^(\d{1,7}(?:\.\d{1,6})?)\s*s$/.exec(text.trim())?.[1];
  return seconds === undefined ? null : Number(seconds);
}

/**
 * Reads a moment as people type it: `01:02:03.456`, leading parts left out if wished, or seconds such as `12.5s`.
 *
 * @returns Seconds, or null when the text is neither.
 */
export function readClockTime(text: string): number | null {
  const parts = /^(?:(\d{1,3}):)?(\d{1,2}):(\d{1,2}(?:\.\d{1,6})?)$/.exec(text.trim());
  if (!parts) return readSeconds(text);
  const [hours, minutes, seconds] = [parts[1] ?? '0', parts[2], parts[3]].map(Number) as [number, number, number];
  return minutes > 59 || seconds >= 60 ? null : hours * 3600 + minutes * 60 + seconds;
}
