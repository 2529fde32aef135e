import { minutesOf, type OpenHours } from './openHours.ts';

const DAY = 24 * 3600;

/**
 * How long it is until work is done that goes on only within hours, by the clock on the wall; that a day may have an hour more or
 * less is left aside.
 *
 * @param workSeconds - That are left.
 * @param secondOfDay - Now, from midnight.
 * @param hours - null is always open; so are hours that begin and end together.
 */
export function secondsUntilDone(workSeconds: number, secondOfDay: number, hours: OpenHours | null): number {
  const [from, to] = hours ? [minutesOf(hours.from), minutesOf(hours.to)] : [null, null];
  if (from === null || to === null || from === to) return workSeconds;
  const open = ((to - from) * 60 + DAY) % DAY;
  const sinceOpened = (secondOfDay - from * 60 + DAY) % DAY;
  const isOpen = sinceOpened < open;
  const untilOpen = isOpen ? 0 : DAY - sinceOpened;
  const first = isOpen ? open - sinceOpened : open;
  if (workSeconds <= first) return untilOpen + workSeconds;
  const rest = workSeconds - first;
  return untilOpen + first + Math.ceil(rest / open) * (DAY - open) + rest;
}
