import { triedRequestSchema, type TriedRequest } from '../../../../../contract/trial.ts';
import { readBody, route } from '../../../../../server/http.ts';
import { viewSettledSize } from '../../../../../server/trials/openSize.ts';

interface Params {
  readonly id: string;
}

/** The frame size that an order which leaves it open would take now, and why; without a reason nothing was measured yet. */
export const POST = route<Params>(async ({ context }, request, { id }) => {
  const order = (await readBody(request, triedRequestSchema)) as TriedRequest;
  return Response.json(await viewSettledSize(context, id, order));
});
