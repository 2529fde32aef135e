import { repointRequestSchema } from '../../../../contract/programme.ts';
import { readBody, route } from '../../../../server/http.ts';
import { findNow, repointProgramme } from '../../../../server/programmes/masters.ts';
import { forgetProgramme, viewProgramme } from '../../../../server/programmes/programmes.ts';

interface Params {
  readonly id: string;
}

export const GET = route<Params>(async ({ context }, _request, { id }) =>
  Response.json(viewProgramme(await findNow(context, id))),
);

export const PATCH = route<Params>(async ({ context }, request, { id }) => {
  const { path, replace } = await readBody(request, repointRequestSchema);
  return Response.json(await repointProgramme(context, id, path, replace));
});

export const DELETE = route<Params>(async ({ context }, _request, { id }) => {
  await forgetProgramme(context, id);
  return new Response(null, { status: 204 });
});
