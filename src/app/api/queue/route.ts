import { queueChangeSchema, queueRequestSchema } from '../../../contract/queue.ts';
import { readBody, readQuestion, route } from '../../../server/http.ts';

export const GET = route(async ({ line }, request) => {
  const limit = new URL(request.url).searchParams.get('limit');
  const asked = readQuestion(queueRequestSchema, limit === null ? {} : { limit: Number(limit) });
  return Response.json(await line.view(asked.limit));
});

export const PATCH = route(async ({ line }, request) =>
  Response.json(await line.change(await readBody(request, queueChangeSchema))),
);
