import { route } from '../../../../../../server/http.ts';
import { answerPicture, readFrameNumber } from '../../../../../../server/stills/answerPicture.ts';

interface Params {
  readonly id: string;
  readonly frame: string;
}

export const GET = route<Params>(async ({ stills }, request, { id, frame }) =>
  answerPicture(await stills.ofRendition(id, readFrameNumber(frame), request.signal)),
);
