import { captionTracks } from '../captions/captionTracks.ts';
import type { ProgrammeFacts } from '../programme/facts.ts';
import { isCopied, type Recipe } from '../recipe/recipe.ts';
import type { PlanProblem } from './planProblem.ts';

/** Which of a programme's captions are drawn into its picture, from 0; null where none are, and where there are none. */
export function drawnCaptions(facts: ProgrammeFacts, { file }: Pick<Recipe, 'file'>): number | null {
  return file.captions === 'burn' && captionTracks(facts).length > 0 ? file.captionTrack : null;
}

/** What stands in the way of captions that are to be drawn into the picture. */
export function* findCaptionMisfits(facts: ProgrammeFacts, recipe: Recipe): Generator<PlanProblem> {
  const number = drawnCaptions(facts, recipe);
  if (number === null || !recipe.video) return;
  if (isCopied(recipe.video)) {
    yield {
      code: 'copy-cannot',
      field: 'file.captions',
      message:
        'Captions cannot be drawn into a picture that is copied as it is; encode it, or hand them over beside it.',
    };
    return;
  }
  const tracks = captionTracks(facts);
  const track = tracks[number];
  if (!track) {
    yield {
      code: 'track-missing',
      field: 'file.captionTrack',
      message: `This programme has ${tracks.length === 1 ? 'one track' : `${tracks.length} tracks`} of captions; there is no track ${number + 1}.`,
    };
  } else if (!track.isText) {
    yield {
      code: 'captions-are-pictures',
      field: 'file.captionTrack',
      message: 'These captions are stored as pictures, and only text is drawn in; take other captions, or none.',
    };
  }
}
