import { route } from '../../../server/http.ts';
import { browseMedia } from '../../../server/programmes/programmes.ts';

export const GET = route(async ({ context }, request) =>
  Response.json(await browseMedia(context, new URL(request.url).searchParams.get('folder'))),
);
