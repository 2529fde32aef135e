import { route } from '../../../../../server/http.ts';
import { findCuts } from '../../../../../server/programmes/cuts.ts';
import { findProgramme } from '../../../../../server/programmes/programmes.ts';

interface Params {
  readonly id: string;
}

export const GET = route<Params>(async ({ context }, request, { id }) =>
  Response.json(await findCuts(context, await findProgramme(context, id), request.signal)),
);
