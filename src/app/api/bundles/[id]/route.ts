import { bundleChangeSchema } from '../../../../contract/shelf.ts';
import { bundles } from '../../../../server/shelf/shelf.ts';
import { shelfItemRoutes } from '../../../../server/shelf/shelfRoutes.ts';

export const { GET, PATCH, DELETE } = shelfItemRoutes(bundles, bundleChangeSchema);
