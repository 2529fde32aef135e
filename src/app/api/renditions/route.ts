import { listRequestSchema } from '../../../contract/list.ts';
import { renditionRequestSchema } from '../../../contract/recipe.ts';
import { readBody, readQuestion, route } from '../../../server/http.ts';
import { listRenditions } from '../../../server/renditions/renditions.ts';

export const GET = route(async ({ context }, request) => {
  const query = new URL(request.url).searchParams;
  const numberOf = (name: string) => (query.has(name) ? Number(query.get(name)) : undefined);
  const asked = readQuestion(listRequestSchema, {
    programmeId: query.get('programmeId'),
    state: query.get('state')?.split(',') ?? null,
    newest: query.has('newest'),
    after: numberOf('after') ?? null,
    limit: numberOf('limit'),
  });
  return Response.json(await listRenditions(context, asked));
});

export const POST = route((application, request) =>
  application.ordering.take(async () => {
    const order = await readBody(request, renditionRequestSchema);
    return Response.json(await application.order(order), { status: 201 });
  }, request.signal),
);
