import type { FieldOrder } from '../geometry/preparation.ts';
import type { ProgrammeFacts } from '../programme/facts.ts';
import { isUsualRate, isWithinRate, nameFrameRate, usualRateFor } from '../timing/frameRate.ts';
import { rational, sameRational, toNumber, type Rational } from '../timing/rational.ts';

/**
 * How many frames a second a result has: the programme's own, half of them, one for each field where fields are taken apart, so many, or as
 * many of the programme's own as are allowed, every second or third of them where all would be too many.
 */
export type FrameRateChoice = 'source' | 'half' | 'fields' | Rational | { readonly atMost: Rational };

/** What of a recipe decides on the rate. */
export interface Paced {
  readonly time: { readonly frameRate: FrameRateChoice };
  readonly picture: { readonly deinterlace: FieldOrder | null };
}

/** Frames a second that recipes may ask for. */
export const FRAME_RATE_RANGE = [1, 240] as const;

/**
 * The rate that a recipe gives a programme.
 *
 * @returns null where frames stay as they are.
 */
export function resultRate(
  facts: Pick<ProgrammeFacts, 'frameRate' | 'video'>,
  { time: { frameRate: choice }, picture: { deinterlace } }: Paced,
): Rational | null {
  const { frameRate, video } = facts;
  if (!video || choice === 'source') return null;
  if (choice === 'half') return everyNth(frameRate, 2);
  if (choice === 'fields') return deinterlace && fieldRate(facts);
  if (!('atMost' in choice)) {
    const rate = rational(choice.num, choice.den);
    return video.constantRate && sameRational(rate, frameRate) ? null : rate;
  }
  let every = 1;
  while (!isWithinRate(toNumber(everyNth(frameRate, every)), choice.atMost)) every += 1;
  return every === 1 ? null : everyNth(frameRate, every);
}

function everyNth({ num, den }: Rational, every: number): Rational {
  return rational(num, den * every);
}

/**
 * The rate at which each field of a programme is a frame of its own: twice its frames.
 *
 * @returns null where frames do not come evenly.
 */
export function fieldRate({ frameRate, video }: Pick<ProgrammeFacts, 'frameRate' | 'video'>): Rational | null {
  return video?.constantRate ? rational(frameRate.num * 2, frameRate.den) : null;
}

/**
 * A steady rate for frames that come unevenly: what their file claims, where the trade uses it, or else the least of the
 * usual rates that is no slower than they come.
 */
export function steadyRate({ frameRate, video }: Pick<ProgrammeFacts, 'frameRate' | 'video'>): Rational {
  const claimed = video?.claimedRate;
  const isNoSlower = claimed && isWithinRate(toNumber(frameRate), claimed);
  return isNoSlower && isUsualRate(claimed) ? claimed : usualRateFor(frameRate);
}

/** Whether frames lie as evenly at another rate as they did: all of them, or every second, third and so on. */
export function isEven({ frameRate, video }: Pick<ProgrammeFacts, 'frameRate' | 'video'>, rate: Rational): boolean {
  if (!video?.constantRate) return false;
  const every = Math.round(toNumber(frameRate) / toNumber(rate));
  return every >= 1 && sameRational(everyNth(frameRate, every), rate);
}

/** A choice in words, of no programme in particular: `half the source’s frames`. */
export function nameFrameRateChoice(choice: FrameRateChoice): string {
  if (choice === 'source') return 'the source’s frames';
  if (choice === 'half') return 'half the source’s frames';
  if (choice === 'fields') return 'each field a frame';
  return 'atMost' in choice ? `at most ${nameFrameRate(choice.atMost)} fps` : `${nameFrameRate(choice)} fps`;
}
