import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { toast } from 'sonner';
import type { BriefItem, BundleItem, RecipeItem } from '../../contract/shelf.ts';
import { defaultsFor } from '../../core/naming/folderDefaults.ts';
import { inOrder, type ShelfItem } from '../../core/shelf/shelf.ts';
import { api } from './api.ts';

/** The lists of the shelf, as the interface calls them. */
export interface ShelfLists {
  readonly recipes: RecipeItem;
  readonly bundles: BundleItem;
  readonly briefs: BriefItem;
}

export type ShelfList = keyof ShelfLists;

/** One list of the shelf, what is starred first. */
export function useShelf<List extends ShelfList>(list: List) {
  return useQuery({
    queryKey: ['shelf', list],
    queryFn: async () => inOrder((await api.shelf(list)) as ShelfLists[List][]),
  });
}

/** One brief; null for none, for one that was deleted, and until the list has come. */
export function useBrief(id: string | null): BriefItem | null {
  const { data: briefs = [] } = useShelf('briefs');
  return briefs.find((one) => one.id === id) ?? null;
}

/** What is done to a list of the shelf; deleting can be undone. */
export function useShelfWork<List extends ShelfList>(list: List) {
  const client = useQueryClient();
  const read = () => client.invalidateQueries({ queryKey: ['shelf', list] });
  const fail = (error: Error) => void toast.error(error.message);
  const put = useMutation({
    mutationFn: (item: Omit<ShelfLists[List], 'id' | 'isStock'>) => api.putOnShelf<ShelfLists[List]>(list, item),
    onSuccess: read,
    onError: fail,
  });
  const change = useMutation({
    mutationFn: ({ id, ...parts }: { readonly id: string } & Record<string, unknown>) =>
      api.changeOnShelf(list, id, parts),
    onSuccess: read,
    onError: fail,
  });
  const remove = useMutation({
    mutationFn: ({ id }: ShelfItem) => api.removeFromShelf(list, id),
    onSuccess: (_answer, item) => {
      void read();
      const onClick = () => change.mutate({ id: item.id, restored: true });
      toast(`${item.name} is deleted.`, { action: { label: 'Undo', onClick } });
    },
    onError: fail,
  });
  return { put, change, remove };
}

/** The recipe that orders for a master begin with; undefined while it is read, and null for what ships. */
export function useDefaultRecipe(masterPath: string): RecipeItem | null | undefined {
  const { data: defaults } = useDefaults();
  const { data: recipes } = useShelf('recipes');
  if (!defaults || !recipes) return undefined;
  const { recipeId } = defaultsFor(defaults, masterPath);
  return recipes.find(({ id }) => id === recipeId) ?? null;
}

export const useDefaults = () => useQuery({ queryKey: ['shelf', 'recipes', 'defaults'], queryFn: api.defaults });

export function useKeepDefaults() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: api.keepDefaults,
    onSuccess: (defaults) => client.setQueryData(['shelf', 'recipes', 'defaults'], defaults),
    onError: (error: Error) => void toast.error(error.message),
  });
}
