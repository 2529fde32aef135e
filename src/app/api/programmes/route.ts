import { programmeRequestSchema } from '../../../contract/programme.ts';
import { readBody, route } from '../../../server/http.ts';
import { listProgrammes, takeIn } from '../../../server/programmes/programmes.ts';

export const GET = route(async ({ context }) => Response.json(await listProgrammes(context)));

export const POST = route(async ({ context }, request) => {
  const { path } = await readBody(request, programmeRequestSchema);
  return Response.json(await takeIn(context, path), { status: 201 });
});
