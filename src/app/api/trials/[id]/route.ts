import { route } from '../../../../server/http.ts';
import { findTrial, stopTrial, viewTrial } from '../../../../server/trials/trials.ts';

interface Params {
  readonly id: string;
}

export const GET = route<Params>(async ({ context }, _request, { id }) =>
  Response.json(viewTrial(await findTrial(context, id))),
);

export const DELETE = route<Params>(async ({ context, scheduler }, _request, { id }) =>
  Response.json(await stopTrial(context, scheduler, id)),
);
