import { readStripPicture } from '../../../../../../server/analysis/analyses.ts';
import { route } from '../../../../../../server/http.ts';
import { readFrameNumber } from '../../../../../../server/stills/answerPicture.ts';

interface Params {
  readonly id: string;
  readonly number: string;
}

export const GET = route<Params>(async ({ context }, _request, { id, number }) => {
  const picture = await readStripPicture(context, id, readFrameNumber(number));
  return new Response(new Uint8Array(picture), {
    headers: { 'content-type': 'image/jpeg', 'cache-control': 'private, max-age=60' },
  });
});
