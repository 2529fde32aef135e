import { isCopied, losslessVideo } from '../recipe/recipe.ts';
import { CAPTION_ADVICE, PICTURE_ADVICE, SOUND_ADVICE } from './adviseOnProgramme.ts';
import type { Advise, Advisory, Subject } from './advisory.ts';
import { isApplied, type OrderState } from './applyFix.ts';

/**
 * What should be known of a programme by someone who orders it without having looked at its page: what is more than a note,
 * is about a stream that is made of it, and is not seen to by the order itself.
 */
export function adviseUnseen(subject: Subject, order: OrderState): Advisory[] {
  const { video, audio } = order.recipe;
  const adviseBy = (list: readonly Advise[]) => list.map((advise) => advise(subject)).filter(isWorthAWord);
  // What is to stay as it is, is not to be mended: of that only what makes it useless is worth a word.
  const isKept = losslessVideo(order.recipe) !== null;
  const picture = video && adviseBy(PICTURE_ADVICE).filter((one) => !(isKept || isCopied(video)) || isFault(one));
  const sound = audio && adviseBy(SOUND_ADVICE).filter((one) => !(isKept || isCopied(audio)) || isFault(one));
  // Not even a copy has them.
  const captions = video && adviseBy(CAPTION_ADVICE);
  return [...(picture ?? []), ...(sound ?? []), ...(captions ?? [])].filter(
    ({ fix }) => !fix || !isApplied(subject.facts, fix, order),
  );
}

function isWorthAWord(advisory: Advisory | null): advisory is Advisory {
  return advisory !== null && advisory.severity !== 'note';
}

function isFault({ severity, fix }: Advisory): boolean {
  return severity === 'serious' && !fix;
}
