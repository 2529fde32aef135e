import { route } from '../../../../server/http.ts';
import { getRendition } from '../../../../server/renditions/renditions.ts';

interface Params {
  readonly id: string;
}

export const GET = route<Params>(async ({ context }, _request, { id }) =>
  Response.json(await getRendition(context, id)),
);

export const DELETE = route<Params>(async (application, _request, { id }) =>
  Response.json(await application.stopRendition(id)),
);
