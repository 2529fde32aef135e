import { recipeChangeSchema } from '../../../../contract/shelf.ts';
import { recipes } from '../../../../server/shelf/shelf.ts';
import { shelfItemRoutes } from '../../../../server/shelf/shelfRoutes.ts';

export const { GET, PATCH, DELETE } = shelfItemRoutes(recipes, recipeChangeSchema);
