import { atQuality, holdsInHardware, ratedVideo, type RateChoice, type Recipe } from './recipe.ts';

/**
 * The order with its picture held to something else, in software where hardware does not hold it; as it is where the picture has no rate.
 */
export function withRate(recipe: Recipe, rate: RateChoice): Recipe {
  const video = ratedVideo(recipe);
  if (!video) return recipe;
  return { ...recipe, video: { ...video, rate, hardware: video.hardware && holdsInHardware(rate) } };
}

/**
 * The order at a constant quality, where no frame size can be left open: the largest is taken.
 *
 * @param quality - On the codec's own scale.
 */
export function withQuality(recipe: Recipe, quality: number): Recipe {
  const { fit } = recipe.picture;
  const picture = { ...recipe.picture, fit: fit && { ...fit, orSmaller: undefined } };
  return withRate({ ...recipe, picture }, atQuality(quality));
}
