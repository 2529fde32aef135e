/** Between which times of day work is done, as `23:00`; over midnight where the end is not after the beginning. */
export interface OpenHours {
  readonly from: string;
  readonly to: string;
}

/** A time of day in minutes from midnight; null for what is none. */
export function minutesOf(time: string): number | null {
  const match = /^([01]?\d|2[0-3]):([0-5]\d)$/.exec(time.trim());
  return match ? Number(match[1]) * 60 + Number(match[2]) : null;
}

/** What the clock on the wall says, in whole minutes from midnight. */
export function minuteOfDay(now: Date): number {
  return now.getHours() * 60 + now.getMinutes();
}

/**
 * Whether a moment lies within hours, by the clock on the wall.
 *
 * @param hours - null is always open; so are hours that begin and end together.
 * @param minutes - From midnight.
 */
export function isWithin(hours: OpenHours | null, minutes: number): boolean {
  const [from, to] = hours ? [minutesOf(hours.from), minutesOf(hours.to)] : [null, null];
  if (from === null || to === null || from === to) return true;
  return from < to ? minutes >= from && minutes < to : minutes >= from || minutes < to;
}
