import { newRecipeSchema } from '../../../contract/shelf.ts';
import { readBody, route } from '../../../server/http.ts';
import { recipes } from '../../../server/shelf/shelf.ts';

export const GET = route(async ({ context }) => Response.json(await recipes.list(context)));

export const POST = route(async ({ context }, request) =>
  Response.json(await recipes.put(context, await readBody(request, newRecipeSchema)), { status: 201 }),
);
