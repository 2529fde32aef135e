import { newBriefSchema } from '../../../contract/shelf.ts';
import { briefs } from '../../../server/shelf/shelf.ts';
import { shelfRoutes } from '../../../server/shelf/shelfRoutes.ts';

export const { GET, POST } = shelfRoutes(briefs, newBriefSchema);
