import { RecipesPage } from '../../ui/recipes/RecipesPage.tsx';

export const metadata = { title: 'Recipes & briefs' };

export default function Page() {
  return <RecipesPage />;
}
