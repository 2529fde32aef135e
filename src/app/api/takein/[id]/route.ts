import { dismissSchema } from '../../../../contract/programme.ts';
import { readBody, route } from '../../../../server/http.ts';

interface Params {
  readonly id: string;
}

export const GET = route<Params>(async ({ takeIns }, _request, { id }) => Response.json(await takeIns.view(id)));

export const DELETE = route<Params>(async ({ takeIns }, _request, { id }) => Response.json(await takeIns.cancel(id)));

/** Puts its report away. */
export const PATCH = route<Params>(async ({ takeIns }, request, { id }) => {
  await readBody(request, dismissSchema);
  await takeIns.dismiss(id);
  return new Response(null, { status: 204 });
});
