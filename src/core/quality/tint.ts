import { fromRgb, toRgb, weightsOf, type LumaChroma } from '../picture/lumaChroma.ts';

export interface PairMeans {
  readonly master: LumaChroma;
  readonly result: LumaChroma;
}

/** What makes a picture of another colour than its master as a rule. */
export const TINT_CAUSES = ['other-matrix', 'full-as-limited', 'limited-as-full'] as const;
export type TintCause = (typeof TINT_CAUSES)[number];

/** By how much the colours of a result differ from its master's in the mean, in steps of eight bits. */
export interface Tint {
  readonly red: number;
  readonly green: number;
  readonly blue: number;
  /** null where none of them makes it likely. */
  readonly cause: TintCause | null;
}

/** A mean shift of one step of eight bits in any colour is told: below, it is rounding. */
export const TINT_STEPS = 1;

/** A cause is likely when it explains so much of the shift. */
const EXPLAINED = 0.5;

/** What a mistake makes of the means of a master. */
type Mistake = (means: LumaChroma) => LumaChroma;

function mistakesWith(matrix: string): readonly (readonly [TintCause, Mistake])[] {
  const own = weightsOf(matrix);
  const other = weightsOf(own === weightsOf('bt709') ? 'smpte170m' : 'bt709');
  const scaled =
    (luma: number, chroma: number, from: number, to: number): Mistake =>
    ({ y, cb, cr }) => ({
      y: to + (y - from) * luma,
      cb: 128 + (cb - 128) * chroma,
      cr: 128 + (cr - 128) * chroma,
    });
  return [
    ['other-matrix', (means) => fromRgb(toRgb(means, own), other)],
    ['other-matrix', (means) => fromRgb(toRgb(means, other), own)],
    ['full-as-limited', scaled(255 / 219, 255 / 224, 16, 0)],
    ['limited-as-full', scaled(219 / 255, 224 / 255, 0, 16)],
  ];
}

/**
 * By how much a result's colours are off in the mean of its whole length, and what is likely to have done it.
 *
 * @param pairs - At least one, at a common matrix and in limited range.
 * @param matrix - That matrix, by its name in ITU-T H.273.
 */
export function findTint(pairs: readonly PairMeans[], matrix: string): Tint {
  const weights = weightsOf(matrix);
  const shifts = pairs.map(({ master, result }) => {
    const [r, g, b] = toRgb(master, weights);
    const [red, green, blue] = toRgb(result, weights);
    return [red - r, green - g, blue - b] as const;
  });
  const [red = 0, green = 0, blue = 0] = [0, 1, 2].map(
    (channel) => shifts.reduce((sum, shift) => sum + shift[channel]!, 0) / Math.max(1, pairs.length),
  );
  return { red, green, blue, cause: isTinted({ red, green, blue }) ? likelyCause(pairs, matrix) : null };
}

/** Whether a shift is worth telling. */
export function isTinted({ red, green, blue }: Pick<Tint, 'red' | 'green' | 'blue'>): boolean {
  return Math.max(Math.abs(red), Math.abs(green), Math.abs(blue)) > TINT_STEPS;
}

function likelyCause(pairs: readonly PairMeans[], matrix: string): TintCause | null {
  const apart = (mistake: Mistake) =>
    pairs.reduce((sum, { master, result }) => {
      const wrong = mistake(master);
      return sum + (wrong.y - result.y) ** 2 + (wrong.cb - result.cb) ** 2 + (wrong.cr - result.cr) ** 2;
    }, 0);
  const asItIs = apart((means) => means);
  const judged = mistakesWith(matrix).map(([cause, mistake]) => ({ cause, left: apart(mistake) }));
  const best = judged.reduce((one, other) => (other.left < one.left ? other : one));
  return best.left < asItIs * (1 - EXPLAINED) ** 2 ? best.cause : null;
}
