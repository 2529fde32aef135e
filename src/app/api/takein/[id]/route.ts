import { route } from '../../../../server/http.ts';

interface Params {
  readonly id: string;
}

export const GET = route<Params>(async ({ takeIns }, _request, { id }) => Response.json(await takeIns.view(id)));

export const DELETE = route<Params>(async ({ takeIns }, _request, { id }) => Response.json(await takeIns.cancel(id)));
