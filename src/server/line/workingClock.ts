import type { Hold } from '../../engine/process/hold.ts';

/** A clock in milliseconds that stands still while work does: what is left is foreseen by the time that was worked. */
export function workingClock(hold: Hold): () => number {
  let stood = 0;
  let since = hold.isHeld() ? performance.now() : null;
  hold.onChange(() => {
    const now = performance.now();
    if (since !== null) stood += now - since;
    since = hold.isHeld() ? now : null;
  });
  return () => (since ?? performance.now()) - stood;
}
