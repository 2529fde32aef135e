import { afterCommas } from '../text.ts';

/** What is done to a sound besides its channels and its loudness. */
export interface SoundTreatment {
  /** Turned up by so many decibels, or down; peaks that would go over the usual ceiling are held down. */
  readonly gainDb: number;
  readonly fadeInSeconds: number;
  readonly fadeOutSeconds: number;
  /** Heard so much later than it lies in the master, or earlier. */
  readonly delayMs: number;
}

/** A sound as it is. */
export const UNTREATED: SoundTreatment = { gainDb: 0, fadeInSeconds: 0, fadeOutSeconds: 0, delayMs: 0 };

/** What recipes may ask for: from all but silent to as much as a whisper needs, and as far off as any player or cable puts it. */
export const GAIN_RANGE = [-60, 40] as const;
export const MOST_FADE_SECONDS = 60;
export const MOST_DELAY_MS = 10_000;

/** What is done to a sound, in words before each of which there is a comma; empty where nothing is. */
export function sayTreatment({ gainDb, fadeInSeconds, fadeOutSeconds, delayMs }: SoundTreatment): string {
  const fades = [
    fadeInSeconds > 0 ? `in over ${fadeInSeconds} s` : '',
    fadeOutSeconds > 0 ? `out over ${fadeOutSeconds} s` : '',
  ].filter((part) => part !== '');
  return afterCommas([
    gainDb === 0 ? '' : `turned ${gainDb > 0 ? 'up' : 'down'} by ${Math.abs(gainDb)} dB`,
    delayMs === 0 ? '' : `${Math.abs(delayMs)} ms ${delayMs > 0 ? 'later' : 'earlier'}`,
    fades.length > 0 ? `faded ${fades.join(' and ')}` : '',
  ]);
}
