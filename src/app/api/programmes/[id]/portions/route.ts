import { portionsSchema } from '../../../../../contract/portion.ts';
import { pageOf, readBody, route } from '../../../../../server/http.ts';
import { listPortions, replacePortions } from '../../../../../server/portions/portions.ts';

interface Params {
  readonly id: string;
}

export const GET = route<Params>(async ({ context }, _request, { id }) =>
  Response.json(await listPortions(context, id)),
);

export const PUT = route<Params>(async ({ context }, request, { id }) => {
  const portions = await readBody(request, portionsSchema);
  return Response.json(await replacePortions(context, id, portions, pageOf(request)));
});
