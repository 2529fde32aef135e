import { listCaptions } from '../../../../../server/captions/captions.ts';
import { route } from '../../../../../server/http.ts';

interface Params {
  readonly id: string;
}

export const GET = route<Params>(async ({ context }, _request, { id }) =>
  Response.json(await listCaptions(context, id)),
);
