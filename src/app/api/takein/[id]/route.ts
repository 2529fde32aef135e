import { dismissSchema } from '../../../../contract/programme.ts';
import { readBody, route } from '../../../../server/http.ts';
import { cancelTakeIn, dismissTakeIn, viewTakeIn } from '../../../../server/takein/takeIns.ts';

interface Params {
  readonly id: string;
}

export const GET = route<Params>(async ({ context }, _request, { id }) => Response.json(await viewTakeIn(context, id)));

export const DELETE = route<Params>(async ({ context, scheduler }, _request, { id }) =>
  Response.json(await cancelTakeIn(context, scheduler, id)),
);

/** Puts its report away. */
export const PATCH = route<Params>(async ({ context }, request, { id }) => {
  await readBody(request, dismissSchema);
  await dismissTakeIn(context, id);
  return new Response(null, { status: 204 });
});
