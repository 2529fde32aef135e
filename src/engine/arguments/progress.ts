/** Nothing but faults on standard error. */
export const QUIETLY: readonly string[] = ['-hide_banner', '-nostdin', '-loglevel', 'error'];

/** Progress on standard output twice a second; the log on standard error. */
export const QUIET_WITH_PROGRESS: readonly string[] = [
  '-hide_banner',
  '-nostdin',
  '-y',
  '-nostats',
  '-progress',
  'pipe:1',
  '-stats_period',
  '0.5',
];
