import { readStripPicture } from '../../../../../../server/analysis/analyses.ts';
import { route } from '../../../../../../server/http.ts';
import { readFrameNumber } from '../../../../../../server/stills/answerPicture.ts';

interface Params {
  readonly id: string;
  readonly number: string;
}

export const GET = route<Params>(async (application, request, { id, number }) => {
  const { bytes, mime } = await readStripPicture(application, id, readFrameNumber(number), request.signal);
  return new Response(new Uint8Array(bytes), {
    headers: { 'content-type': mime, 'cache-control': 'private, max-age=60' },
  });
});
