import type { Preparation } from '../geometry/preparation.ts';
import type { ProgrammeFacts } from '../programme/facts.ts';
import { formatForWhole } from '../video/carriesWhole.ts';
import { MASTERS } from '../video/codecs.ts';
import { splitFormat } from './changeRecipe.ts';
import { encodedVideo, isRatedVideo, type MasterVideo, type Recipe } from './recipe.ts';

/**
 * A recipe as it is applied to one programme. Fields that are taken apart and bars that are cut off belong to the programme: a recipe that
 * says nothing of them leaves them as they are there. What is to lose nothing keeps both, and stores as much of each pixel as there is.
 *
 * @param own - What the programme needs before it is scaled.
 */
export function suitRecipe(recipe: Recipe, facts: ProgrammeFacts, own: Preparation): Recipe {
  if (losslessVideo(recipe)) return storeWhole(recipe, facts);
  const { picture } = recipe;
  const [crop, deinterlace] = [picture.crop ?? own.crop, picture.deinterlace ?? own.deinterlace];
  return { ...recipe, picture: { ...picture, crop, deinterlace } };
}

/** A lossless codec stores as many bits and as much colour of each pixel as the programme has; any other what its recipe says. */
export function storeWhole(recipe: Recipe, { video: own }: Pick<ProgrammeFacts, 'video'>): Recipe {
  const video = losslessVideo(recipe);
  if (!own || !video) return recipe;
  const format = formatForWhole(MASTERS[video.codec].formats, own);
  return { ...recipe, video: { ...video, ...splitFormat(format) } };
}

/** An order as a recipe for any programme: which fields come first is told by each programme itself. */
export function asRecipe(order: Recipe): Recipe {
  return { ...order, picture: { ...order.picture, deinterlace: null } };
}

function losslessVideo(recipe: Recipe): MasterVideo | null {
  const video = encodedVideo(recipe);
  return video && !isRatedVideo(video) && MASTERS[video.codec].isLossless ? video : null;
}
