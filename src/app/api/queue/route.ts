import { queueChangeSchema } from '../../../contract/queue.ts';
import { readBody, route } from '../../../server/http.ts';

export const GET = route(async ({ line }) => Response.json(await line.view()));

export const PATCH = route(async ({ line }, request) =>
  Response.json(await line.change(await readBody(request, queueChangeSchema))),
);
