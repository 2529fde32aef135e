import { route } from '../../../server/http.ts';
import { viewSpeeds } from '../../../server/forecast/speeds.ts';

export const GET = route(async ({ context }) => Response.json({ speeds: await viewSpeeds(context) }));
