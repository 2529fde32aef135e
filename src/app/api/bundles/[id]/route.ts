import { bundleChangeSchema } from '../../../../contract/shelf.ts';
import { readBody, route } from '../../../../server/http.ts';
import { bundles } from '../../../../server/shelf/shelf.ts';

interface Params {
  readonly id: string;
}

export const GET = route<Params>(async ({ context }, _request, { id }) =>
  Response.json(await bundles.find(context, id)),
);

export const PATCH = route<Params>(async ({ context }, request, { id }) =>
  Response.json(await bundles.change(context, id, await readBody(request, bundleChangeSchema))),
);

export const DELETE = route<Params>(async ({ context }, _request, { id }) => {
  await bundles.remove(context, id);
  return new Response(null, { status: 204 });
});
