import { newRecipeSchema } from '../../../contract/shelf.ts';
import { recipes } from '../../../server/shelf/shelf.ts';
import { shelfRoutes } from '../../../server/shelf/shelfRoutes.ts';

export const { GET, POST } = shelfRoutes(recipes, newRecipeSchema);
