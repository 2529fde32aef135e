import { triedRequestSchema, type TriedRequest } from '../../../../../contract/trial.ts';
import { readBody, route } from '../../../../../server/http.ts';
import { findProgramme } from '../../../../../server/programmes/programmes.ts';
import { findForesight } from '../../../../../server/renditions/planOrder.ts';

interface Params {
  readonly id: string;
}

/** What trials at the settings of an order foresee of its size at each quality; null where there were none. */
export const POST = route<Params>(async ({ context }, request, { id }) => {
  const { recipe, portion } = (await readBody(request, triedRequestSchema)) as TriedRequest;
  const { tried } = await findForesight(context, await findProgramme(context, id), { recipe, portion });
  return Response.json({ tried });
});
