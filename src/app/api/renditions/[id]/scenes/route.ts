import { route } from '../../../../../server/http.ts';
import { sceneQualities } from '../../../../../server/renditions/frameQualities.ts';

interface Params {
  readonly id: string;
}

export const GET = route<Params>(async ({ context }, _request, { id }) =>
  Response.json(await sceneQualities(context, id)),
);
