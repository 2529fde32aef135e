import { route } from '../../../../../../server/http.ts';
import { answerPicture, readFrameNumber, readRecipe } from '../../../../../../server/stills/answerPicture.ts';

interface Params {
  readonly id: string;
  readonly frame: string;
}

/** A frame as an order has it go into its encoder. */
export const GET = route<Params>(async ({ stills }, request, { id, frame }) =>
  answerPicture(await stills.ofOrder(id, readRecipe(request), readFrameNumber(frame), request.signal)),
);
