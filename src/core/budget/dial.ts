import type { QualityScale, RatedDefinition } from '../video/definition.ts';
import { RATE_STEP } from './splitBudget.ts';

/** How a codec's encoder is brought to a size. */
export interface FillWay {
  readonly by: RatedDefinition['fillsBy'];
  readonly scale: QualityScale;
}

/**
 * What an encoder is turned by to make a file larger. Its position rises with the size, about as fast: a rate is its own
 * position; a constant quality stands where the sizes that go with it would.
 */
export interface Dial {
  /**
   * The nearest position to a wanted one that the encoder takes and that was not tried yet: the same again gives the
   * same again.
   *
   * @returns null when every position between the tried ones on both sides was.
   */
  readonly untried: (wanted: number, tried: readonly number[]) => number | null;
  /** The first position, and the last there is use for. */
  readonly range: readonly [least: number, most: number];
  /** From one that was answered to the next in one go at most, as shares of it. */
  readonly furthest: readonly [down: number, up: number];
}

/** The dial of a way to fill. */
export function dialOf({ by, scale }: FillWay): Dial {
  switch (by) {
    case 'rates':
      return {
        untried: (wanted, tried) => {
          const step = nearestUntried(
            wanted / RATE_STEP,
            tried.map((one) => one / RATE_STEP),
            [1, Infinity],
          );
          return step === null ? null : step * RATE_STEP;
        },
        range: [RATE_STEP, Infinity],
        // Rates are answered unevenly, and least so near the floor.
        furthest: [0.5, 4],
      };
    case 'qualities':
      return {
        untried: (wanted, tried) => {
          // Counted from the coarse end, so that steps rise with the size as well.
          const stepOf = (position: number) => -Math.log(position) / scale.slope / scale.step;
          const most = (scale.worst - scale.finestSensible) / scale.step;
          const step = nearestUntried(stepOf(wanted), tried.map(stepOf), [0, most]);
          return step === null ? null : positionOf(scale, scale.worst - step * scale.step);
        },
        range: [positionOf(scale, scale.worst), positionOf(scale, scale.finestSensible)],
        furthest: [0.1, 10],
      };
  }
}

/** Where a constant quality stands on its dial: 1 at the coarsest. */
export function positionOf({ worst, slope }: QualityScale, quality: number): number {
  return Math.exp(slope * (quality - worst));
}

/** The constant quality at a position, to the step. */
export function qualityAt({ worst, slope, step }: QualityScale, position: number): number {
  const perStep = 1 / step;
  return Math.round((worst + Math.log(position) / slope) * perStep) / perStep;
}

/** Whole steps; the nearest to the wanted one between the tried ones around it. */
function nearestUntried(
  wanted: number,
  tried: readonly number[],
  [first, last]: readonly [number, number],
): number | null {
  const whole = tried.map(Math.round);
  const least = Math.max(first, 1 + Math.max(-Infinity, ...whole.filter((one) => one <= wanted)));
  const most = Math.min(last, Math.min(Infinity, ...whole.filter((one) => one > wanted)) - 1);
  return least > most ? null : Math.max(least, Math.min(most, Math.round(wanted)));
}
