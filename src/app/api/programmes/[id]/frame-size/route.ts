import { triedRequestSchema, type TriedRequest } from '../../../../../contract/trial.ts';
import { renditionSize } from '../../../../../core/recipe/recipe.ts';
import { readBody, route } from '../../../../../server/http.ts';
import { findProgramme } from '../../../../../server/programmes/programmes.ts';
import { settleSize } from '../../../../../server/trials/openSize.ts';

interface Params {
  readonly id: string;
}

/** The frame size that an order which leaves it open would take now, and why; without a reason nothing was measured yet. */
export const POST = route<Params>(async ({ context }, request, { id }) => {
  const order = (await readBody(request, triedRequestSchema)) as TriedRequest;
  const programme = await findProgramme(context, id);
  const { recipe, reason } = await settleSize(context, programme, order);
  return Response.json({ size: renditionSize(programme.facts, recipe.picture), reason });
});
