import { chromium, type Browser, type Page } from '@playwright/test';

/** How long a page is moved without a pause. */
export const LASTING_MS = 6000;

export function openBrowser(): Promise<Browser> {
  return chromium.launch({
    executablePath: process.env['CHROMIUM'] ?? '/usr/bin/chromium',
    args: ['--no-sandbox', '--disable-dev-shm-usage'],
  });
}

/** Run in the page; as text, since what compiles this file leaves helpers in functions that a page does not have. */
const RECORD_FRAMES = `new Promise((resolve) => {
  const times = [];
  const tick = (now) => {
    times.push(now);
    if (now - times[0] < ${LASTING_MS}) requestAnimationFrame(tick);
    else resolve(times.slice(1).map((time, index) => time - times[index]));
  };
  requestAnimationFrame(tick);
})`;

/** Milliseconds from each frame of a page to the next. */
export function recordFrames(page: Page): Promise<number[]> {
  return page.evaluate<number[]>(RECORD_FRAMES);
}

/** @param times - In milliseconds. */
export function printFrames(what: string, times: readonly number[]): void {
  const sorted = times.toSorted((a, b) => a - b);
  const at = (share: number) => (sorted[Math.floor(share * (sorted.length - 1))] ?? NaN).toFixed(1);
  const long = times.filter((time) => time > 32).length;
  console.log(
    `${what}: ${sorted.length} times, ${at(0.5)} ms (median), ${at(0.95)} ms (95 of 100), ${at(0.99)} ms (99 of 100), ${at(1)} ms (worst), ${long} over 32 ms`,
  );
}
