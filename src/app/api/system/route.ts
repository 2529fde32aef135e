import { route } from '../../../server/http.ts';

export const GET = route((application) => Response.json(application.system()));
