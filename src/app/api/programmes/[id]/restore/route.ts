import { route } from '../../../../../server/http.ts';
import { restoreProgramme } from '../../../../../server/programmes/programmes.ts';

interface Params {
  readonly id: string;
}

export const POST = route<Params>(async ({ context }, _request, { id }) =>
  Response.json(await restoreProgramme(context, id)),
);
