/** Whether a machine is otherwise idle, as it was last seen. */
export interface Idleness {
  readonly isIdle: boolean;
  /** How long it has looked the other way. */
  readonly otherwiseSeconds: number;
}

/** Nothing is known yet: whoever starts the application is there. */
export const IN_USE: Idleness = { isIdle: false, otherwiseSeconds: 0 };

/** Others take less than this share of all cores on an idle machine, and more on one in use; between them it stays as it was. */
const IDLE_BELOW = 0.1;
const IN_USE_ABOVE = 0.25;

/** So long it must have been quiet, and so long busy: a page that loads is not work, and a pause is not the end of it. */
const QUIET_SECONDS = 60;
const BUSY_SECONDS = 10;

/**
 * What a look at the machine says.
 *
 * @param share - Of all cores, that others took since the last look, from 0 to 1.
 * @param seconds - Since that look.
 */
export function lookForIdleness({ isIdle, otherwiseSeconds }: Idleness, share: number, seconds: number): Idleness {
  const looksOtherwise = isIdle ? share > IN_USE_ABOVE : share < IDLE_BELOW;
  if (!looksOtherwise) return { isIdle, otherwiseSeconds: 0 };
  const since = otherwiseSeconds + seconds;
  return since >= (isIdle ? BUSY_SECONDS : QUIET_SECONDS)
    ? { isIdle: !isIdle, otherwiseSeconds: 0 }
    : { isIdle, otherwiseSeconds: since };
}
