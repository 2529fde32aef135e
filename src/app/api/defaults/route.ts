import { defaultsSchema } from '../../../contract/defaults.ts';
import { readBody, route } from '../../../server/http.ts';
import { readDefaults, writeDefaults } from '../../../server/shelf/defaults.ts';

export const GET = route(async ({ context }) => Response.json(await readDefaults(context)));

export const PUT = route(async ({ context }, request) =>
  Response.json(await writeDefaults(context, await readBody(request, defaultsSchema))),
);
