import type { QueryClient, QueryKey } from '@tanstack/react-query';

/** What takes the server seconds is asked for again at most so often. */
const EVERY_MS = 2000;

/**
 * Makes what is called whenever an answer may be old that takes long to give: it is asked for again in a while, once for all
 * that happened until then, and not before the answer that is underway has come.
 */
export function createPatientAsker(client: QueryClient, queryKey: QueryKey): () => void {
  let timer: ReturnType<typeof setTimeout> | null = null;
  const later = () => {
    timer ??= setTimeout(() => {
      timer = null;
      if (client.isFetching({ queryKey }) > 0) later();
      else void client.invalidateQueries({ queryKey });
    }, EVERY_MS);
  };
  return later;
}
