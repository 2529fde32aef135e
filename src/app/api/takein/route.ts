import { MOST_PATHS, takeInRequestSchema } from '../../../contract/programme.ts';
import { readBody, route } from '../../../server/http.ts';
import { beginTakeIn, latestTakeIns } from '../../../server/takein/takeIns.ts';

/** Room for so many paths of a usual length. */
const LIMITS = { bytes: 4_000_000, entries: MOST_PATHS };

export const GET = route(async ({ context }) => Response.json(await latestTakeIns(context)));

export const POST = route(async ({ context, scheduler }, request) => {
  const { paths, subfolders } = await readBody(request, takeInRequestSchema, LIMITS);
  return Response.json(await beginTakeIn(context, scheduler, paths, subfolders), { status: 202 });
});
