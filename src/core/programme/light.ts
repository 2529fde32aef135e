import type { LightLevels } from './facts.ts';

/** How bright a picture gets, in words; empty where nothing is told. */
export function nameLight(light: LightLevels): string {
  const { masteringLeast, masteringMost, contentMost, frameAverageMost } = light;
  const parts = [
    masteringMost === null ? '' : `mastered at ${masteringLeast ?? 0} to ${masteringMost} cd/m²`,
    contentMost === null ? '' : `brightest pixel ${contentMost} cd/m²`,
    frameAverageMost === null ? '' : `brightest frame ${frameAverageMost} cd/m²`,
  ];
  return parts.filter(Boolean).join(', ');
}

/**
 * As much of it as a file can be made to tell: of a display everything or nothing, and no brightest pixel of 0, which stands for one that is
 * not known (CTA-861.3).
 *
 * @returns null where nothing is left to tell.
 */
export function tellableLight(light: LightLevels): LightLevels | null {
  const { masteringColour, masteringLeast, masteringMost, contentMost, frameAverageMost } = light;
  const isWhole = masteringColour && masteringLeast !== null && masteringMost;
  if (!isWhole && !contentMost) return null;
  return {
    ...(isWhole
      ? { masteringColour, masteringLeast, masteringMost }
      : { masteringColour: null, masteringLeast: null, masteringMost: null }),
    ...(contentMost
      ? { contentMost, frameAverageMost: frameAverageMost ?? 0 }
      : { contentMost: null, frameAverageMost: null }),
  };
}

/** Light and places are written in steps: so far apart they are the same, as a share of the light and as a coordinate. */
const LIGHT_STEP = 0.01;
const PLACE_STEP = 0.0001;

/** Whether two files tell the same of how bright they get, but for rounding. */
export function sameLight(one: LightLevels, other: LightLevels): boolean {
  const near = (a: number | null, b: number | null) =>
    a === null || b === null ? a === b : Math.abs(a - b) <= LIGHT_STEP * Math.max(a, b) + PLACE_STEP;
  const [own, its] = [one.masteringColour, other.masteringColour];
  const isSameColour =
    own && its
      ? (['red', 'green', 'blue', 'white'] as const).every((name) =>
          own[name].every((place, axis) => Math.abs(place - its[name][axis]!) <= PLACE_STEP),
        )
      : !own && !its;
  return (
    isSameColour &&
    near(one.masteringLeast, other.masteringLeast) &&
    near(one.masteringMost, other.masteringMost) &&
    near(one.contentMost, other.contentMost) &&
    near(one.frameAverageMost, other.frameAverageMost)
  );
}
