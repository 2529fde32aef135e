import { recipeChangeSchema } from '../../../../contract/shelf.ts';
import { readBody, route } from '../../../../server/http.ts';
import { recipes } from '../../../../server/shelf/shelf.ts';

interface Params {
  readonly id: string;
}

export const GET = route<Params>(async ({ context }, _request, { id }) =>
  Response.json(await recipes.find(context, id)),
);

export const PATCH = route<Params>(async ({ context }, request, { id }) =>
  Response.json(await recipes.change(context, id, await readBody(request, recipeChangeSchema))),
);

export const DELETE = route<Params>(async ({ context }, _request, { id }) => {
  await recipes.remove(context, id);
  return new Response(null, { status: 204 });
});
