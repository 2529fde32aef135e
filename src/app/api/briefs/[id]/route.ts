import { briefChangeSchema } from '../../../../contract/shelf.ts';
import { briefs } from '../../../../server/shelf/shelf.ts';
import { shelfItemRoutes } from '../../../../server/shelf/shelfRoutes.ts';

export const { GET, PATCH, DELETE } = shelfItemRoutes(briefs, briefChangeSchema);
