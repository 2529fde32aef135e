import { takeInRequestSchema, type TakeInRequest } from '../../../contract/programme.ts';
import { readBody, route } from '../../../server/http.ts';

export const GET = route(async ({ takeIns }) => Response.json(await takeIns.latest()));

export const POST = route(async ({ takeIns }, request) => {
  const { paths, subfolders } = await readBody<TakeInRequest>(request, takeInRequestSchema);
  return Response.json(await takeIns.begin(paths, subfolders), { status: 202 });
});
