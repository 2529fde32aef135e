import { batchChangeSchema } from '../../../../contract/queue.ts';
import { getBatch } from '../../../../server/batches/batches.ts';
import { findUnderway } from '../../../../server/batches/stopBatch.ts';
import { readBody, route } from '../../../../server/http.ts';
import { moveInLine } from '../../../../server/line/moveInLine.ts';

interface Params {
  readonly id: string;
}

export const GET = route<Params>(async ({ context }, _request, { id }) => Response.json(await getBatch(context, id)));

export const PATCH = route<Params>(async ({ context }, request, { id }) => {
  const { position } = await readBody(request, batchChangeSchema);
  await getBatch(context, id);
  await moveInLine(context, await findUnderway(context, id), position);
  return Response.json(await getBatch(context, id));
});

export const DELETE = route<Params>(async (application, _request, { id }) =>
  Response.json(await application.stopBatch(id)),
);
