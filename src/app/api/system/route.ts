import { foldersSchema } from '../../../contract/system.ts';
import { readBody, route } from '../../../server/http.ts';

export const GET = route((application) => Response.json(application.system()));

/** Changes the folders, also in the settings file. */
export const PATCH = route(async (application, request) =>
  Response.json(await application.changeFolders(await readBody(request, foldersSchema))),
);
