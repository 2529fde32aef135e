import { findProgramme } from '../../../../../server/programmes/programmes.ts';
import { route } from '../../../../../server/http.ts';
import { trialsOf, viewTrial } from '../../../../../server/trials/trials.ts';

interface Params {
  readonly id: string;
}

export const GET = route<Params>(async ({ context }, _request, { id }) => {
  await findProgramme(context, id);
  return Response.json((await trialsOf(context, id)).map(viewTrial));
});
