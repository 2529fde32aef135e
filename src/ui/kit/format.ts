/** Numbers as they are written everywhere: powers of ten, always with their unit, a thin gap before it. */

export function formatBytes(value: number): string {
  if (value >= 1e9) return `${(value / 1e9).toFixed(2)} GB`;
  if (value >= 1e8) return `${(value / 1e6).toFixed(0)} MB`;
  if (value >= 1e7) return `${(value / 1e6).toFixed(1)} MB`;
  if (value >= 1e6) return `${(value / 1e6).toFixed(2)} MB`;
  if (value >= 1e5) return `${(value / 1e3).toFixed(0)} kB`;
  if (value >= 1e3) return `${(value / 1e3).toFixed(1)} kB`;
  return `${value} B`;
}

export function formatExactBytes(value: number): string {
  return `${value.toLocaleString('en')} bytes`;
}

export function formatRate(bitsPerSecond: number): string {
  if (bitsPerSecond >= 9_999_500) return `${(bitsPerSecond / 1e6).toFixed(1)} Mb/s`;
  return `${Math.round(bitsPerSecond / 1e3).toLocaleString('en')} kb/s`;
}

/** Lengths of programmes: minutes and seconds, hours where there are any. */
export function formatLength(seconds: number): string {
  const whole = Math.floor(seconds);
  const [hours, minutes, rest] = [Math.floor(whole / 3600), Math.floor(whole / 60) % 60, whole % 60];
  const tail = `${String(minutes).padStart(hours > 0 ? 2 : 1, '0')}:${String(rest).padStart(2, '0')}`;
  return hours > 0 ? `${hours}:${tail}` : tail;
}

/** The length of what is ordered or made, wherever it stands. */
export function formatSeconds(seconds: number): string {
  return `${seconds.toFixed(2)} s`;
}

/** Waiting times: rough when long. */
export function formatWait(seconds: number): string {
  if (seconds < 1) return 'under 1 s';
  if (seconds < 90) return `${Math.round(seconds)} s`;
  if (seconds < 5400) return `${Math.round(seconds / 60)} min`;
  return `${(seconds / 3600).toFixed(1)} h`;
}

export function formatRatio(master: number, result: number): string {
  const ratio = master / result;
  return `${ratio >= 10 ? ratio.toFixed(0) : ratio.toFixed(1)} : 1`;
}

/**
 * Reads a size as people type it: `48 MB`, `48M`, `1.2 GB`, `700 MiB`, `900 kB`, or bare megabytes.
 *
 * @returns Whole bytes, or null.
 */
export function parseSize(text: string): number | null {
  const match = /^\s*(\d+(?:[.,]\d+)?)\s*([kmg]i?b?(?:ytes)?|b(?:ytes)?)?\s*$/i.exec(text);
  if (!match) return null;
  const unit = (match[2] ?? 'M').toLowerCase().replace(/b(?:ytes)?$/, '');
  const scale = { '': 1, k: 1e3, m: 1e6, g: 1e9, ki: 2 ** 10, mi: 2 ** 20, gi: 2 ** 30 }[unit];
  return scale === undefined ? null : Math.round(Number(match[1]!.replace(',', '.')) * scale);
}

/**
 * Reads a rate as people type it: `4M`, `4000k`, `4 Mb/s`, `4 Mbps`, `4000 kbit/s`, or bare kilobits per second. The
 * letters are powers of ten; bits, never bytes.
 *
 * @returns Bits per second, or null.
 */
export function parseRate(text: string): number | null {
  const match = /^\s*(\d{1,3}(?:,\d{3})+(?:\.\d+)?|\d+(?:[.,]\d+)?)\s*([kmg])?\s*(?:b|bit|bits)?(?:ps|\/s)?\s*$/i.exec(
    text,
  );
  if (!match) return null;
  const isGrouped = /,\d{3}(?:[,.]|$)/.test(match[1]!);
  const value = Number(match[1]!.replaceAll(',', isGrouped ? '' : '.'));
  const scale = { k: 1e3, m: 1e6, g: 1e9 }[(match[2] ?? 'k').toLowerCase()];
  return scale === undefined || !Number.isFinite(value) ? null : value * scale;
}

/** A number of bytes or kb/s in three significant digits, at least 1: what was dragged should read well. */
export function roundToRead(value: number): number {
  const unit = Math.max(1, 10 ** (Math.floor(Math.log10(Math.max(1, value))) - 2));
  return Math.max(1, Math.round(value / unit) * unit);
}
