import { COMMON_HEIGHTS, type FrameSize } from '../geometry/frameSize.ts';
import { atFrameSize, atLines } from '../geometry/framing.ts';
import type { ProgrammeFacts } from '../programme/facts.ts';
import { withVideoCodec } from '../recipe/changeRecipe.ts';
import { atQuality, fillsSize, ratedVideo, renditionSize, type Recipe } from '../recipe/recipe.ts';
import { RATED, RATED_CODECS, type RatedCodec } from '../video/codecs.ts';
import { EFFORTS, type Effort, type QualityScale } from '../video/definition.ts';
import { toStep } from '../video/qualityStep.ts';

/** Of a portion's frames, that trials encode: as a rule, and at least and at most. */
export const USUAL_SHARE_TRIED = 0.1;
export const SHARE_RANGE = [0.01, 1] as const;

/** However little the share comes to, this many seconds are tried, and however much, no more than these. */
export const TRIED_SECONDS = [8, 90] as const;

/** One curve that is to be tried. */
export interface GridCurve extends FrameSize {
  readonly codec: RatedCodec;
  /** Another than the order’s. */
  readonly effort?: Effort | undefined;
  readonly qualities: readonly number[];
}

/** Frame sizes that are tried: the order's own and so many smaller ones. */
const SMALLER_SIZES = 2;

/** Small sizes that are worth trying below the common ones. */
const HEIGHTS = [...COMMON_HEIGHTS, 240, 180] as const;

/** Codecs that are tried: the order's own and its neighbour. */
const CODECS_TRIED = 2;

/** Sizes at which a curve is tried, as multiples of what the usual quality comes to. */
const SPREAD = [3, 1, 1 / 3] as const;

/**
 * What is worth trying of an order: its codec and the next that its container takes, its frame size and the next two down, and
 * qualities from three times to a third of the usual size.
 *
 * @param encoders - What this machine encodes.
 * @returns Empty where the order has no rate to choose.
 */
export function proposeGrid(facts: ProgrammeFacts, recipe: Recipe, encoders: readonly string[]): GridCurve[] {
  const video = ratedVideo(recipe);
  const size = renditionSize(facts, recipe);
  // Groups are weighed without the second picture.
  if (!video || video.alpha || !size || !facts.video) return [];
  const taken = RATED_CODECS.filter(
    (codec) => RATED[codec].containers.includes(recipe.container) && encoders.includes(codec),
  );
  const at = Math.max(0, taken.indexOf(video.codec));
  const codecs = [...taken.slice(at), ...taken.slice(0, at).toReversed()].slice(0, CODECS_TRIED);
  return codecs.flatMap((codec) =>
    sizesDown(facts, recipe, size).map((one) => ({ codec, ...one, qualities: spread(codec) })),
  );
}

/** A frame size and the next ones down, in the same shape. */
export function sizesDown(facts: ProgrammeFacts, recipe: Recipe, size: FrameSize): FrameSize[] {
  const smaller = HEIGHTS.filter((height) => height < size.height)
    .flatMap((height) => renditionSize(facts, { ...recipe, picture: atLines(recipe.picture, height) }) ?? [])
    .filter(({ width, height }) => Math.min(width, height) >= 64);
  return [size, ...smaller.slice(0, SMALLER_SIZES)];
}

/** Sizes around a cap at which frame sizes are measured against each other, as multiples of it: soundings may be well too low. */
const AROUND_CAP = [1.6, 0.7, 0.3] as const;

/** From one frame size to another bits go with the area to this power (common practice, no source: about three quarters). */
const AREA_POWER = 0.75;

/**
 * What is worth trying to choose the frame size of a size to fill: the order's codec at its frame size and the next two down,
 * each at qualities that come to about the cap.
 *
 * @param quality - Of the order's own frame size at the cap, as far as it is known.
 * @returns Empty where the order leaves nothing open.
 */
export function openSizeGrid(facts: ProgrammeFacts, recipe: Recipe, quality: number | null): GridCurve[] {
  const video = ratedVideo(recipe);
  const size = renditionSize(facts, recipe);
  if (!video || video.alpha || !size || !facts.video || !recipe.picture.fit?.orSmaller || !fillsSize(recipe)) return [];
  const { codec } = video;
  const scale = RATED[codec].quality;
  return sizesDown(facts, recipe, size).map((one) => {
    if (quality === null) return { codec, ...one, qualities: spread(codec) };
    const area = (one.width * one.height) / (size.width * size.height);
    const middle = quality - (AREA_POWER * Math.log(area)) / scale.slope;
    const values = AROUND_CAP.map((times) => onScale(scale, middle + Math.log(times) / scale.slope));
    return { codec, ...one, qualities: [...new Set(values)] };
  });
}

function onScale(scale: QualityScale, value: number): number {
  return toStep(scale, Math.round(Math.max(scale.finestSensible, Math.min(scale.worst, value))));
}

/** The effort that an order’s is compared with: the next thorougher one, or the one before the most thorough. */
export function otherEffort(effort: Effort): Effort {
  const at = EFFORTS.indexOf(effort);
  return EFFORTS[at + 1] ?? EFFORTS[at - 1] ?? effort;
}

/** Qualities spread over the useful part of a codec's scale, from fine to coarse. */
export function spread(codec: RatedCodec): number[] {
  const { quality } = RATED[codec];
  const values = SPREAD.map((times) => onScale(quality, quality.usual + Math.log(times) / quality.slope));
  return [...new Set(values)];
}

/**
 * The order at one point of a grid.
 *
 * @param quality - On the codec's own scale.
 */
export function recipeAt(
  recipe: Recipe,
  { codec, width, height, effort }: Omit<GridCurve, 'qualities'>,
  quality: number,
): Recipe {
  const video = ratedVideo(withVideoCodec(recipe, codec));
  if (!video) return recipe;
  return {
    ...recipe,
    video: { ...video, rate: atQuality(quality), effort: effort ?? video.effort, hardware: false },
    picture: atFrameSize(recipe.picture, { width, height }),
  };
}
