import { route } from '../../../server/http.ts';
import { viewSpeeds } from '../../../server/forecast/speeds.ts';

export const GET = route(async ({ context }) => Response.json(await viewSpeeds(context)));
