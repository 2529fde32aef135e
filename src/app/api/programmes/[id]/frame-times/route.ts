import { route } from '../../../../../server/http.ts';
import { viewFrameTimes } from '../../../../../server/programmes/frameTimes.ts';

interface Params {
  readonly id: string;
}

export const GET = route<Params>(async ({ context }, _request, { id }) =>
  Response.json(await viewFrameTimes(context, id)),
);
