import { getBatch } from '../../../../server/batches/batches.ts';
import { route } from '../../../../server/http.ts';

interface Params {
  readonly id: string;
}

export const GET = route<Params>(async ({ context }, _request, { id }) => Response.json(await getBatch(context, id)));

export const DELETE = route<Params>(async (application, _request, { id }) =>
  Response.json(await application.stopBatch(id)),
);
