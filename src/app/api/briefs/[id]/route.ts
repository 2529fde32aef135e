import { briefChangeSchema } from '../../../../contract/shelf.ts';
import { readBody, route } from '../../../../server/http.ts';
import { briefs } from '../../../../server/shelf/shelf.ts';

interface Params {
  readonly id: string;
}

export const GET = route<Params>(async ({ context }, _request, { id }) =>
  Response.json(await briefs.find(context, id)),
);

export const PATCH = route<Params>(async ({ context }, request, { id }) =>
  Response.json(await briefs.change(context, id, await readBody(request, briefChangeSchema))),
);

export const DELETE = route<Params>(async ({ context }, _request, { id }) => {
  await briefs.remove(context, id);
  return new Response(null, { status: 204 });
});
