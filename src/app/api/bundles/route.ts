import { newBundleSchema } from '../../../contract/shelf.ts';
import { readBody, route } from '../../../server/http.ts';
import { bundles } from '../../../server/shelf/shelf.ts';

export const GET = route(async ({ context }) => Response.json(await bundles.list(context)));

export const POST = route(async ({ context }, request) =>
  Response.json(await bundles.put(context, await readBody(request, newBundleSchema)), { status: 201 }),
);
