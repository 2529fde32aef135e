import { newBundleSchema } from '../../../contract/shelf.ts';
import { bundles } from '../../../server/shelf/shelf.ts';
import { shelfRoutes } from '../../../server/shelf/shelfRoutes.ts';

export const { GET, POST } = shelfRoutes(bundles, newBundleSchema);
