import { route } from '../../../../../server/http.ts';
import { readRaw } from '../../../../../server/programmes/programmes.ts';

interface Params {
  readonly id: string;
}

export const GET = route<Params>(async ({ context }, _request, { id }) => Response.json(await readRaw(context, id)));
