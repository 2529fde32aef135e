import { renditionRequestSchema } from '../../../contract/recipe.ts';
import { readBody, route } from '../../../server/http.ts';
import { viewPlan } from '../../../server/renditions/planOrder.ts';

export const POST = route(async ({ context }, request) =>
  Response.json(await viewPlan(context, await readBody(request, renditionRequestSchema))),
);
