import { renditionRequestSchema, type RenditionRequest } from '../../../contract/recipe.ts';
import { readBody, route } from '../../../server/http.ts';
import { listRenditions } from '../../../server/renditions/renditions.ts';

export const GET = route(async ({ context }, request) =>
  Response.json(await listRenditions(context, new URL(request.url).searchParams.get('programmeId'))),
);

export const POST = route(async (application, request) => {
  const order = await readBody(request, renditionRequestSchema);
  return Response.json(await application.order(order), { status: 201 });
});
