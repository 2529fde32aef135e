import { viewCameOut } from '../../../../../server/forecast/cameOut.ts';
import { route } from '../../../../../server/http.ts';

interface Params {
  readonly id: string;
}

export const GET = route<Params>(async ({ context }, _request, { id }) =>
  Response.json({ cameOut: await viewCameOut(context, id) }),
);
