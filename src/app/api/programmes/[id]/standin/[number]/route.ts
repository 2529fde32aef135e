import { route } from '../../../../../../server/http.ts';
import { readFrameNumber } from '../../../../../../server/stills/answerPicture.ts';

interface Params {
  readonly id: string;
  readonly number: string;
}

export const GET = route<Params>(async ({ standIns }, request, { id, number }) => {
  const piece = await standIns.piece(id, readFrameNumber(number), request.signal);
  return new Response(new Uint8Array(piece), {
    headers: { 'content-type': standIns.mime, 'cache-control': 'private, max-age=60' },
  });
});
