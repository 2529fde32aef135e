import { triedPointSchema } from '../../../../../../contract/trial.ts';
import { readQuestion, route } from '../../../../../../server/http.ts';
import { answerPicture, readFrameNumber } from '../../../../../../server/stills/answerPicture.ts';

interface Params {
  readonly id: string;
  readonly frame: string;
}

export const GET = route<Params>(async ({ stills }, request, { id, frame }) => {
  const query = new URL(request.url).searchParams;
  const point = readQuestion(triedPointSchema, {
    codec: query.get('codec') ?? undefined,
    ...Object.fromEntries(['width', 'height', 'quality'].map((name) => [name, Number(query.get(name))])),
  });
  return answerPicture(await stills.ofTried(id, point, readFrameNumber(frame), request.signal));
});
