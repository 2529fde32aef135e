import { removeForgottenSchema } from '../../../contract/programme.ts';
import { readBody, route } from '../../../server/http.ts';
import { listForgotten, removeForgotten } from '../../../server/programmes/programmes.ts';

export const GET = route(async ({ context }) => Response.json(await listForgotten(context)));

/** Takes the named ones away for good. */
export const DELETE = route(async ({ context }, request) => {
  const { ids } = await readBody(request, removeForgottenSchema);
  return Response.json({ removed: await removeForgotten(context, ids) });
});
