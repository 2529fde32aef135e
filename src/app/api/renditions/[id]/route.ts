import { renditionChangeSchema } from '../../../../contract/queue.ts';
import { readBody, route } from '../../../../server/http.ts';
import { moveInLine } from '../../../../server/line/moveInLine.ts';
import { getRendition } from '../../../../server/renditions/renditions.ts';

interface Params {
  readonly id: string;
}

export const GET = route<Params>(async ({ context }, _request, { id }) =>
  Response.json(await getRendition(context, id)),
);

export const PATCH = route<Params>(async ({ context, line }, request, { id }) => {
  const { position, paused } = await readBody(request, renditionChangeSchema);
  await getRendition(context, id);
  if (position !== undefined) await moveInLine(context, [id], position);
  if (paused !== undefined) await line.setHeld(id, paused);
  return Response.json(await getRendition(context, id));
});

export const DELETE = route<Params>(async (application, _request, { id }) =>
  Response.json(await application.stopRendition(id)),
);
