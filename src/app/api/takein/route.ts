import { MOST_PATHS, takeInRequestSchema } from '../../../contract/programme.ts';
import { readBody, route } from '../../../server/http.ts';

/** Room for so many paths of a usual length. */
const LIMITS = { bytes: 4_000_000, entries: MOST_PATHS };

export const GET = route(async ({ takeIns }) => Response.json(await takeIns.latest()));

export const POST = route(async ({ takeIns }, request) => {
  const { paths, subfolders } = await readBody(request, takeInRequestSchema, LIMITS);
  return Response.json(await takeIns.begin(paths, subfolders), { status: 202 });
});
