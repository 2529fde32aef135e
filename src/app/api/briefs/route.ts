import { newBriefSchema } from '../../../contract/shelf.ts';
import { readBody, route } from '../../../server/http.ts';
import { briefs } from '../../../server/shelf/shelf.ts';

export const GET = route(async ({ context }) => Response.json(await briefs.list(context)));

export const POST = route(async ({ context }, request) =>
  Response.json(await briefs.put(context, await readBody(request, newBriefSchema)), { status: 201 }),
);
