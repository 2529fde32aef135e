import { route } from '../../../../server/http.ts';
import { forgetProgramme, getProgramme } from '../../../../server/programmes/programmes.ts';

interface Params {
  readonly id: string;
}

export const GET = route<Params>(async ({ context }, _request, { id }) =>
  Response.json(await getProgramme(context, id)),
);

export const DELETE = route<Params>(async ({ context }, _request, { id }) => {
  await forgetProgramme(context, id);
  return new Response(null, { status: 204 });
});
