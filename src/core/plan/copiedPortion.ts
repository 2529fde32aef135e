import { isWhole, type Portion, type ProgrammeFacts } from '../programme/facts.ts';
import { isCopied, type Recipe } from '../recipe/recipe.ts';

/** Whether an order copies the picture of a part of its programme, from keyframe to keyframe. */
export function copiesPart(facts: ProgrammeFacts, recipe: Recipe, portion: Portion | null): portion is Portion {
  return isCopied(recipe.video) && portion !== null && facts.video !== null && !isWhole(portion, facts);
}

/**
 * The frames that a copied portion really takes: from the last place before it where a copy may begin to the last frame
 * before the next such place after it.
 *
 * @param cuts - Frames at which a copy may begin, rising.
 */
export function widenToCuts(
  { inFrame, outFrame }: Portion,
  cuts: readonly number[],
  { frameCount }: Pick<ProgrammeFacts, 'frameCount'>,
): Portion {
  const next = cuts.find((cut) => cut > outFrame) ?? frameCount;
  return { inFrame: Math.max(0, ...cuts.filter((cut) => cut <= inFrame)), outFrame: next - 1 };
}
