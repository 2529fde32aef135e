import { route } from '../../../../server/http.ts';

export const GET = route(async (application) => Response.json({ encoders: await application.hardware() }));
