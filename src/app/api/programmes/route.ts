import { programmesRequestSchema } from '../../../contract/list.ts';
import { programmeRequestSchema } from '../../../contract/programme.ts';
import { readBody, readQuestion, route } from '../../../server/http.ts';
import { listProgrammes, takeIn } from '../../../server/programmes/programmes.ts';

export const GET = route(async ({ context }, request) => {
  const query = new URL(request.url).searchParams;
  const limit = query.has('limit') ? Number(query.get('limit')) : undefined;
  const asked = readQuestion(programmesRequestSchema, { after: query.get('after'), limit });
  return Response.json(await listProgrammes(context, asked));
});

export const POST = route(async ({ context }, request) => {
  const { path } = await readBody(request, programmeRequestSchema);
  return Response.json(await takeIn(context, path), { status: 201 });
});
